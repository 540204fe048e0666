'use client';
import { useEffect, useMemo, useState } from 'react';
import type { SessionView } from '@/contracts';
import { songSpan, type SongSpan } from '@/core/tidy';
import { useSession, useSessionStore } from '@/ui/client';
import { Button, Clock, Line, NumberField } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { firstNote, songEndChanges, type SongEndSettings, songStretch } from './song-ends';
import { useTidyHand } from './tidy-hand';
import type { TidyRow } from './tidy-rows';

const FIRST: SongEndSettings = {
  beforeSeconds: 0.1,
  afterSeconds: 0.5,
  fadeInSeconds: 0.01,
  fadeOutSeconds: 0.4,
};
const TIMES: readonly (readonly [key: keyof SongEndSettings, label: string, step: number])[] = [
  ['beforeSeconds', 'Stays before it, ms', 50],
  ['afterSeconds', 'Stays after it, ms', 100],
  ['fadeInSeconds', 'Fade in, ms', 10],
  ['fadeOutSeconds', 'Fade out, ms', 100],
];
const MOST_MS = 10_000;
/** So much is heard around an end, s. */
const [HEARD_BEFORE, HEARD_TAIL] = [0.5, 3];

/** Head and tail of the song: what lies before the first note and after the last decay of all tracks goes in one step. */
export function SongEndsPart({ rows }: { readonly rows: readonly TidyRow[] }) {
  const store = useSessionStore();
  const player = usePlayer();
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const [settings, setSettings] = useState(FIRST);
  const choices = useTidyHand((h) => h.choices);
  const span = useMemo(
    () =>
      songSpan(
        rows.flatMap((r) => r.proposal ?? []),
        choices,
      ),
    [rows, choices],
  );
  const fromFrames = useFirstNote(span, rows);
  const toFrames = span && songStretch(session, span).toFrames;
  const changes = useMemo(
    () => (now: Pick<SessionView, 'session' | 'recordings'>) =>
      fromFrames === null || toFrames === null ? [] : songEndChanges(now, { fromFrames, toFrames }, settings),
    [fromFrames, toFrames, settings],
  );
  const count = useMemo(() => changes({ session, recordings }).length, [changes, session, recordings]);
  if (!span || fromFrames === null || toFrames === null) return null;
  const rateHz = session.sampleRateHz ?? 48_000;
  const nameOf = (id: string): string => session.nodes[id]?.name ?? '';
  const playFrom = (seconds: number): void => {
    player.seek(Math.max(0, seconds));
    void player.play();
  };
  return (
    <>
      <h3>Head and tail of the song</h3>
      <p className="fm-below-1">
        {span.isFromBegin ? (
          <>{nameOf(span.firstId)} sounds from the beginning of its recording on</>
        ) : (
          <>
            First note at <Clock seconds={fromFrames / rateHz} decimals={2} /> ({nameOf(span.firstId)})
          </>
        )}
        ;{' '}
        {span.isToEnd ? (
          <>
            {nameOf(span.lastId)} is left to the end of its recording, at{' '}
            <Clock seconds={toFrames / rateHz} decimals={1} />.
          </>
        ) : (
          <>
            the last sound has died away at <Clock seconds={toFrames / rateHz} decimals={1} /> (
            {nameOf(span.lastId)}).
          </>
        )}
      </p>
      <Line as="p" align="start" wraps>
        <Button onClick={() => playFrom(fromFrames / rateHz - HEARD_BEFORE)}>Hear the head</Button>
        <Button onClick={() => playFrom(toFrames / rateHz - HEARD_TAIL)}>Hear the tail</Button>
      </Line>
      <div className="fm-tidy-times">
        {TIMES.map(([key, label, step]) => (
          <NumberField
            key={key}
            label={label}
            value={Math.round(1000 * settings[key])}
            step={step}
            min={0}
            max={MOST_MS}
            onKeep={(ms) => setSettings({ ...settings, [key]: ms / 1000 })}
          />
        ))}
      </div>
      <Line as="p" align="start">
        <Button
          disabled={count === 0}
          onClick={() => void store.getState().commit('Trim to the song', changes)}
        >
          {count === 0
            ? 'Nothing lies outside'
            : `Trim ${count} ${count === 1 ? 'track' : 'tracks'} to the song`}
        </Button>
      </Line>
      {count > 0 && rows.some((r) => r.ticked === true) && (
        <p className="fm-attention">Cut first what is ticked: a track that is trimmed counts as cut.</p>
      )}
      <p className="fm-faint">
        The sender’s mix and a click stay as they are, and so does what is kept silent. Every edge can be
        pulled out again.
      </p>
    </>
  );
}

/** Frame of the first note: to the sample once its sound was asked; until then, or where it cannot be, as levels tell. */
function useFirstNote(span: SongSpan | null, rows: readonly TidyRow[]): number | null {
  const session = useSession((s) => s.view.session);
  const told = span && songStretch(session, span).fromFrames;
  const first = rows.find((r) => r.track.id === span?.firstId);
  const rateHz = session.sampleRateHz ?? 48_000;
  const { lane, lengthFrames } = first ?? { lane: null, lengthFrames: 0 };
  const key =
    lane && told !== null ? `${lane.recordingId} ${lane.startFrames} ${lengthFrames} ${told}` : null;
  const [found, setFound] = useState<{ readonly key: string; readonly frame: number } | null>(null);
  useEffect(() => {
    if (key === null || lane === null || told === null) return;
    let isOver = false;
    firstNote({ lane, lengthFrames, rateHz }, told)
      .then((frame) => {
        if (!isOver) setFound({ key, frame });
      })
      .catch(() => undefined);
    return () => {
      isOver = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says all of it
  }, [key]);
  return found !== null && found.key === key ? found.frame : told;
}
