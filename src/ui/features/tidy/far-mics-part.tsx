'use client';
import { useMemo } from 'react';
import type { FarMicFact } from '@/core/findings';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Line } from '@/ui/kit';
import { farMicRows, togetherEdits, turnEdits } from './far-mics';
import { useKnownTracks } from './use-known-tracks';

/** Nearer than this they are together: nobody places a microphone so exactly. */
const TOGETHER_SECONDS = 0.0002;

/** Overheads and rooms against the snare's own microphone: how late, which way up, and what can be done without harm to the cymbals. */
export function FarMicsPart() {
  const facts = useSession((s) => s.view.relations.farMics);
  return facts.length > 0 ? <Compared facts={facts} /> : null;
}

function Compared({ facts }: { readonly facts: readonly FarMicFact[] }) {
  const store = useSessionStore();
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const tracks = useKnownTracks();
  const { rows, untold } = useMemo(
    () => farMicRows(session, tracks, facts, recordings),
    [session, tracks, facts, recordings],
  );
  if (rows.length + untold.length === 0) return null;
  const together = togetherEdits(session, rows);
  const turned = turnEdits(rows);
  const canMove = Math.abs(together.bySeconds) >= TOGETHER_SECONDS && together.edits.length > 0;
  const ms = (seconds: number): string => (1000 * Math.abs(seconds)).toFixed(1);
  return (
    <>
      <h3>Over the kit and in its room</h3>
      <p className="fm-faint fm-below-1">Against {rows[0]?.snare.name ?? 'the snare’s own microphone'}.</p>
      <ul className="fm-tidy-list">
        {rows.map((r) => (
          <li key={r.track.id}>
            <b>{r.track.name}</b>{' '}
            {Math.abs(r.laterSeconds) < TOGETHER_SECONDS
              ? 'in time with it'
              : `${ms(r.laterSeconds)} ms ${r.laterSeconds > 0 ? `later (${r.metres.toFixed(1)} m)` : 'earlier'}`}
            {r.polarity === null ? (
              '; its two sides are turned one against the other'
            ) : r.polarity === -1 ? (
              <span className="fm-attention">; polarity inverted</span>
            ) : (
              '; same polarity'
            )}
          </li>
        ))}
        {untold.map((t) => (
          <li key={t.id}>
            <b>{t.name}</b> too unlike it to tell
          </li>
        ))}
      </ul>
      <Line as="p" align="start" wraps>
        {turned.length > 0 && (
          <Button onClick={() => store.getState().commit('Invert polarity against the snare', turned)}>
            Invert polarity{turned.length > 1 ? ` of ${turned.length}` : ''}
          </Button>
        )}
        {canMove && (
          <Button onClick={() => store.getState().commit('Overheads in time with the snare', together.edits)}>
            {together.edits.length > 1 ? 'Overheads together' : 'Overhead'} {ms(together.bySeconds)} ms{' '}
            {together.bySeconds < 0 ? 'earlier' : 'later'}
          </Button>
        )}
      </Line>
      {canMove && (
        <p className="fm-faint">
          All by the same: cymbals keep their width. Rooms stay where they are: how late they are is their
          size.
        </p>
      )}
    </>
  );
}
