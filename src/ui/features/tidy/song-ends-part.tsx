'use client';
import { useMemo, useState } from 'react';
import { faultText } from '@/contracts';
import { songSpan, type TidyProposal } from '@/core/tidy';
import { faultOf, useSession, useSessionStore } from '@/ui/client';
import { Button, Clock, Line, NumberField } from '@/ui/kit';
import { usePlayer } from '@/ui/listening';
import { firstNote, songEndChanges, type SongEndSettings, songStretch } from './song-ends';
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
export function SongEndsPart({
  byTrack,
  rows,
}: {
  readonly byTrack: ReadonlyMap<string, TidyProposal>;
  readonly rows: readonly TidyRow[];
}) {
  const player = usePlayer();
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const [settings, setSettings] = useState(FIRST);
  const span = useMemo(() => songSpan([...byTrack.values()]), [byTrack]);
  const count = useMemo(
    () => (span ? songEndChanges({ session, recordings }, songStretch(session, span), settings).length : 0),
    [span, session, recordings, settings],
  );
  const trimming = useTrimming(rows);
  if (!span) return null;
  const rateHz = session.sampleRateHz ?? 48_000;
  const { fromFrames, toFrames } = songStretch(session, span);
  const nameOf = (id: string): string => session.nodes[id]?.name ?? '';
  const playFrom = (seconds: number): void => {
    player.seek(Math.max(0, seconds));
    void player.play();
  };
  return (
    <>
      <h3>Head and tail of the song</h3>
      <p className="fm-below-1">
        First note at <Clock seconds={fromFrames / rateHz} decimals={2} /> ({nameOf(span.firstId)}); the last
        sound has died away at <Clock seconds={toFrames / rateHz} decimals={1} /> ({nameOf(span.lastId)}).
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
        <Button disabled={count === 0 || trimming.isBusy} onClick={() => void trimming.trim(span, settings)}>
          {count === 0
            ? 'Nothing lies outside'
            : `Trim ${count} ${count === 1 ? 'track' : 'tracks'} to the song`}
        </Button>
      </Line>
      {trimming.fault !== null && (
        <p className="fm-attention" role="status">
          {trimming.fault}
        </p>
      )}
      <p className="fm-faint">
        The sender’s mix and a click stay as they are, and so does what is kept silent. Every edge can be
        pulled out again.
      </p>
    </>
  );
}

/** Trims, as one step; the first note is looked for to the sample first. */
function useTrimming(rows: readonly TidyRow[]) {
  const store = useSessionStore();
  const [isBusy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const trim = async (span: NonNullable<ReturnType<typeof songSpan>>, settings: SongEndSettings) => {
    setBusy(true);
    setFault(null);
    try {
      const { session } = store.getState().view;
      const { toFrames } = songStretch(session, span);
      const first = rows.find((r) => r.track.id === span.firstId);
      const fromFrames = await firstNote(session, span, first);
      store
        .getState()
        .commit('Trim to the song', (now) => songEndChanges(now, { fromFrames, toFrames }, settings));
    } catch (cause) {
      const found = faultOf(cause);
      setFault(
        found.offline
          ? 'Nothing was trimmed, as Fernmoss does not answer. Trim again once it does.'
          : `Nothing was trimmed. ${faultText(found)}`,
      );
    } finally {
      setBusy(false);
    }
  };
  return { isBusy, fault, trim };
}
