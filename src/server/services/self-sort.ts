import { asksMore, noticedIn, trackFactsOf } from '@/contracts';
import { readNames } from '@/core/naming';
import type { Edit } from '@/core/session';
import { changesSomething, proposalEdits, proposeSort } from '@/core/style';
import { EditModel } from '../db';
import { RequestFault } from '../http';
import { applyToSession } from './editing';
import { viewSession } from './sessions';

/** Someone at work on the session comes first: so often it is tried again on what they made of it. */
const TRIES = 5;

/**
 * What the house style does by itself, if it is to: once all that was sent has arrived and was heard, what is certain of
 * the tracks that came since it last did so is applied, as one step that can be undone. Returns how many tracks it sorted.
 */
export async function sortByItself(sessionId: string): Promise<number> {
  for (let attempt = 1; ; attempt++) {
    const view = await viewSession(sessionId);
    const { session, style } = view;
    if (
      style.atImport !== 'certain' ||
      view.recordings.some(
        (r) => r.state === 'waiting' || r.state === 'arriving' || (r.state === 'ready' && !r.listened),
      )
    )
      return 0;
    const fresh = await arrivedSince(sessionId);
    const proposal = proposeSort(
      session,
      style,
      asksMore(view, style) ? { factsOf: trackFactsOf(view, noticedIn(view, readNames).open) } : {},
    );
    const ticked = proposal.rows.filter(
      (r) => r.group === 'certain' && fresh.has(r.trackId) && changesSomething(r),
    );
    if (ticked.length === 0) return 0;
    try {
      await applyToSession(
        sessionId,
        proposalEdits(session, style, proposal, new Set(ticked.map((r) => r.trackId))),
        {
          label: `House style, by itself: ${ticked.length} ${ticked.length === 1 ? 'track' : 'tracks'}`,
          author: 'style',
        },
        { baseRevision: view.revision },
      );
      return ticked.length;
    } catch (cause) {
      if (
        !(cause instanceof RequestFault) ||
        cause.fault.code !== 'session.stale_revision' ||
        attempt === TRIES
      )
        throw cause;
    }
  }
}

/** Tracks that arrived after the style last sorted by itself: what was undone then is not done again. */
async function arrivedSince(sessionId: string): Promise<ReadonlySet<string>> {
  const fresh = new Set<string>();
  for (const row of await EditModel.findAll({
    where: { sessionId, action: 'do', author: ['intake', 'style'] },
    order: [['revision', 'ASC']],
  })) {
    if (row.author === 'style') fresh.clear();
    else
      for (const e of row.edits as Edit[]) if (e.kind === 'put' && e.of === 'track') fresh.add(e.record.id);
  }
  return fresh;
}
