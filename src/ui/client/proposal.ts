import type { SessionView } from '@/contracts';
import type { Track } from '@/core/session';
import { type HouseStyle, proposeSort, type SortProposal, type TrackFacts } from '@/core/style';
import { findingsOf } from './findings';

interface Known {
  readonly style: HouseStyle;
  readonly recordings: SessionView['recordings'];
  readonly proposal: SortProposal;
}

const known = new WeakMap<object, Known>();

/** What is known of the tracks of a session besides their names, for conditions. */
export function trackFacts(view: SessionView): (track: Track) => TrackFacts {
  const recordings = new Map(view.recordings.map((r) => [r.id, r]));
  const codes = new Map<string, string[]>();
  for (const f of findingsOf(view).open) for (const part of f.files) for (const id of [part.id, part.other]) if (id !== null) codes.set(id, [...(codes.get(id) ?? []), f.code]);
  return (track) => ({ channels: recordings.get(track.recordingId)?.channels ?? null, findings: codes.get(track.recordingId) ?? [], heard: recordings.get(track.recordingId)?.heard?.as ?? null });
}

/** A style that asks for no more than names, of recordings not heard yet, need not know more. */
const asksMore = (view: SessionView, style: HouseStyle): boolean => style.rules.length > 0 || style.folders.some((f) => f.when !== null) || view.recordings.some((r) => r.heard?.as);

/** What a style would propose for a session; `overHand`: also over what was set by hand. */
export const proposalWith = (view: SessionView, style: HouseStyle, overHand = false): SortProposal => proposeSort(view.session, style, { overHand, ...(asksMore(view, style) ? { factsOf: trackFacts(view) } : {}) });

/** What the house style proposes for a session; worked out once for each state of it, however many parts of the page ask. */
export function proposalOf(view: SessionView): SortProposal {
  const found = known.get(view.session);
  if (found?.style === view.style && (found.recordings === view.recordings || !asksMore(view, view.style))) return found.proposal;
  const proposal = proposalWith(view, view.style);
  known.set(view.session, { style: view.style, recordings: view.recordings, proposal });
  return proposal;
}
