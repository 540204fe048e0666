'use client';
import { Fragment } from 'react';
import { isTrack } from '@/core/session';
import { useSession, useSessionStore, useWorkbench } from '@/ui/client';
import { GroupLine, levelText } from '@/ui/strips';
import { Button, formatPan } from '@/ui/kit';
import { OFFERED_WORDS } from './ladder-row';
import { balanceChanges, type Strip, stripIn } from './levels';

/** The track in hand: its level and pan beside those offered, each taken for it alone. */
export function LevelsOfTrack() {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const current = useWorkbench((w) => w.current);
  const { session, balance: result } = view;
  const node = current === null ? undefined : session.nodes[current];
  if (!isTrack(node)) return null;
  const take = (of: 'rough' | 'mix'): void => {
    const changes = balanceChanges(of, view).filter((c) => c.kind === 'track.change' && c.id === node.id);
    if (changes.length > 0) store.getState().commit(`Take one level: ${OFFERED_WORDS[of]}`, changes);
  };
  const offered = (['rough', 'mix'] as const).filter((of) =>
    of === 'rough' ? result !== null : result?.mixTrackId != null,
  );
  return (
    <>
      <h3>{node.name}</h3>
      <dl className="fm-strip-list">
        <dt>now</dt>
        <dd>{stripText(stripIn('now', node, { session, result }))}</dd>
        {offered.map((of) => {
          const strip = stripIn(of, node, { session, result });
          return (
            <Fragment key={of}>
              <dt>{OFFERED_WORDS[of]}</dt>
              <dd>{stripText(strip)}</dd>
              {strip && (
                <dd>
                  <Button onClick={() => take(of)}>Take</Button>
                </dd>
              )}
            </Fragment>
          );
        })}
      </dl>
      <GroupLine track={node} />
    </>
  );
}

const stripText = (strip: Strip | null): string =>
  strip ? `${levelText(Math.round(10 * strip.gainDb) / 10)} dB ${formatPan(strip.pan)}` : 'not told';
