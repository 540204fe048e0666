'use client';
import { useEffect, useState } from 'react';
import type { PlayedHits } from '@/contracts';
import { tracksInOrder } from '@/core/session';
import { readTaps, tapLength } from '@/core/tempo';
import { useSession } from '@/ui/client';
import { Button, CheckBox, EnteredField, Icon, Kbd, Line, Select, useClock, useShortcuts } from '@/ui/kit';
import { latencyText, MeasureTapLatency, usePlayer, usePlayerState, useTapLatency } from '@/ui/listening';
import { useNotes } from '@/ui/notes';
import { meterOf, MeterOptions } from './meter-options';
import { parseClock } from './tempo-model';
import type { Taps } from './use-taps';
import type { TempoDraft } from './use-tempo-draft';

type Each = Parameters<typeof tapLength>[0];
const EACH: readonly { readonly each: Each; readonly text: string }[] = [
  { each: 'pulse', text: 'a pulse' },
  { each: 'half', text: 'half a pulse' },
  { each: 'bar', text: 'a bar' },
  { each: 'two bars', text: 'two bars' },
];
/** How far the keys move a tap, s. */
const STEP_SECONDS = 0.005;

/** Tapping along with the song, by key, mouse or MIDI keyboard, and a map of it. */
export function TapPart({
  draft,
  taps,
  hits,
  keepers,
  onEnd,
}: {
  readonly draft: TempoDraft;
  readonly taps: Taps;
  readonly hits: ReadonlyMap<string, PlayedHits>;
  readonly keepers: readonly string[];
  readonly onEnd: () => void;
}) {
  const clock = useClock();
  const player = usePlayer();
  const isPlaying = usePlayerState((s) => s.status === 'playing');
  const [each, setEach] = useState<Each>('pulse');
  const [meter, setMeter] = useState('4/4');
  const [toHits, setToHits] = useState(true);
  const latencyMs = useTapLatency();
  const [measuring, setMeasuring] = useState(false);
  const tap = (atMs: number): void => {
    const heard = player.positionAt(atMs);
    if (heard !== null) taps.add(heard - latencyMs / 1000);
  };
  const midi = useMidiTaps(tap);
  const sources = useTapSources(hits);
  const [sourceId, setSourceId] = useState('');
  const source = sources.find((s) => s.id === sourceId);
  const notes = useNotes(source?.notesOf ?? null);
  const chooseSource = (): void => {
    if (!source) return;
    // Both hands of a chord are one stroke.
    const strokes = (
      source.notesOf === null
        ? (hits.get(source.id)?.seconds ?? [])
        : (notes?.notes ?? []).map((n) => n.seconds + source.startSeconds)
    ).filter((t, i, all) => i === 0 || t - (all[i - 1] as number) > 0.03);
    taps.set(strokes);
  };
  const last = taps.seconds.slice(-5);
  const bpm =
    last.length > 1 ? (60 * (last.length - 1)) / ((last.at(-1) as number) - (last[0] as number)) : null;
  const count = taps.seconds.length;
  const held = taps.seconds[taps.hand];
  /** Moves the tap in hand; the view goes with it. */
  const moveTo = (at: number): void => {
    taps.move(taps.hand, at);
    if (!isPlaying) player.seek(Math.max(0, at));
  };
  const nudge = (by: number): void => {
    if (held !== undefined) moveTo(held + by);
  };
  const make = (): void => {
    const near = toHits ? keepers.flatMap((id) => hits.get(id)?.seconds ?? []).sort((a, b) => a - b) : [];
    draft.replace(`Map of ${count} taps`, () =>
      readTaps({
        taps: taps.seconds,
        pulsesPerTap: tapLength(each, meterOf(meter)),
        meter: meterOf(meter),
        hits: near,
      }),
    );
  };
  useShortcuts(
    measuring
      ? []
      : [
          { key: 't', run: () => tap(performance.now()) },
          { key: 'backspace', run: () => taps.set(taps.seconds.slice(0, -1)) },
          { key: 'enter', mod: true, run: make },
          ...(held === undefined
            ? []
            : [
                { key: 'arrowright', shift: true, run: () => nudge(STEP_SECONDS) },
                { key: 'arrowleft', shift: true, run: () => nudge(-STEP_SECONDS) },
                { key: 'delete', run: () => taps.remove(taps.hand) },
              ]),
        ],
  );
  if (measuring) return <MeasureTapLatency onDone={() => setMeasuring(false)} />;
  return (
    <section aria-label="Tap along">
      <h2>Tap along</h2>
      <p className="fm-faint fm-below-1">
        Play the song with <Kbd>Space</Kbd> and tap <Kbd>T</Kbd>. The first tap is on the first beat of a bar;
        what you leave out is filled in.
      </p>
      <Line as="label" className="fm-field">
        <span className="fm-grow">Each tap is</span>
        <Select isNarrow value={each} onChange={(e) => setEach(e.target.value as Each)}>
          {EACH.map((x) => (
            <option key={x.each} value={x.each}>
              {x.text}
            </option>
          ))}
        </Select>
      </Line>
      <Line as="label" className="fm-field">
        <span className="fm-grow">Meter</span>
        <Select isNarrow value={meter} onChange={(e) => setMeter(e.target.value)}>
          <MeterOptions also={undefined} />
        </Select>
      </Line>
      <Line as="label" className="fm-field">
        <CheckBox checked={toHits} onChange={(e) => setToHits(e.target.checked)} />
        <span>Draw taps to hits of the timekeepers</span>
      </Line>
      <p className="fm-field fm-below-2">
        Tap latency <span className="fm-mono">{latencyText(latencyMs)}</span>{' '}
        <Button
          tone="quiet"
          onClick={() => {
            player.stop();
            setMeasuring(true);
          }}
        >
          Measure
        </Button>
      </p>
      <Button
        tone="bare"
        className="fm-tap"
        disabled={!isPlaying}
        onPointerDown={(e) => {
          e.preventDefault();
          tap(performance.now());
        }}
      >
        <b className="fm-mono">{bpm === null ? '–' : bpm.toFixed(1)}</b>
        <span role="status">
          {count === 0
            ? isPlaying
              ? 'Tap here or press T'
              : 'Press Space to play, then tap'
            : `BPM, from ${count} ${count === 1 ? 'tap' : 'taps'}`}
        </span>
      </Button>
      {sources.length > 0 && (
        <Line className="fm-above-2">
          <Select
            aria-label="A track that taps"
            value={sourceId}
            onChange={(e) => setSourceId(e.target.value)}
          >
            <option value="">or a track that plays it …</option>
            {sources.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </Select>
          <Button className="fm-nowrap" disabled={!source} onClick={chooseSource}>
            Its hits
          </Button>
        </Line>
      )}
      {count > 0 && (
        <div className="fm-field fm-above-2" role="group" aria-label="Single taps">
          <Line className="fm-below-1">
            <span className="fm-grow">
              {held === undefined ? (
                'Move single taps'
              ) : (
                <>
                  Tap <span className="fm-mono">{taps.hand + 1}</span>
                </>
              )}
            </span>
            <Button aria-label="Tap before" title="," onClick={() => taps.step(-1)}>
              <Icon name="chevron-left" />
            </Button>
            <Button aria-label="Next tap" title="." onClick={() => taps.step(1)}>
              <Icon name="chevron-right" />
            </Button>
          </Line>
          {held !== undefined && (
            <Line className="fm-below-1">
              <EnteredField
                label="Moment of the tap"
                value={clock(held, 3)}
                onTake={(text) => {
                  const at = parseClock(text);
                  if (at !== null) moveTo(at);
                }}
              />
              <Button className="fm-nowrap" title="Delete" onClick={() => taps.remove(taps.hand)}>
                Delete tap
              </Button>
            </Line>
          )}
          <p className="fm-faint fm-tight">
            Drag them above the waveforms, or <Kbd>,</Kbd> <Kbd>.</Kbd> selects one and <Kbd>Shift ←</Kbd>{' '}
            <Kbd>Shift →</Kbd> moves it by 5 ms.
          </p>
        </div>
      )}
      {midi.text !== '' && <p className="fm-faint fm-below-1">{midi.text}</p>}
      <Line align="start" wraps className="fm-above-2">
        <Button tone="main" disabled={count < 4} onClick={make}>
          Make the map <Kbd>Ctrl ⏎</Kbd>
        </Button>
        {count > 0 && <Button onClick={() => taps.set([])}>Start over</Button>}
        {midi.connect && <Button onClick={midi.connect}>Tap on a MIDI keyboard</Button>}
        <Button onClick={onEnd}>Back</Button>
      </Line>
      {draft.problem && (
        <p className="fm-attention fm-above-2" role="alert">
          Not done: {draft.problem}.
        </p>
      )}
    </section>
  );
}

/** Tracks whose hits or notes can stand for taps: a click file, a part that plays every pulse. */
function useTapSources(hits: ReadonlyMap<string, PlayedHits>): readonly {
  readonly id: string;
  readonly name: string;
  /** Recording of a note track; null = its hits count. */ readonly notesOf: string | null;
  readonly startSeconds: number;
}[] {
  const { session, recordings } = useSession((s) => s.view);
  return tracksInOrder(session).flatMap((t) => {
    const isNotes = recordings.find((r) => r.id === t.recordingId)?.container === 'midi';
    return isNotes || hits.has(t.id)
      ? [
          {
            id: t.id,
            name: t.name,
            notesOf: isNotes ? t.recordingId : null,
            startSeconds: t.startFrames / (session.sampleRateHz ?? 48_000),
          },
        ]
      : [];
  });
}

/** Notes of a MIDI keyboard as taps, where the browser has Web MIDI; asked for only when wanted. */
function useMidiTaps(tap: (atMs: number) => void): {
  readonly text: string;
  readonly connect: (() => void) | null;
} {
  const [access, setAccess] = useState<MIDIAccess | null>(null);
  const [text, setText] = useState('');
  useEffect(() => {
    if (!access) return;
    const onMessage = (e: MIDIMessageEvent): void => {
      const [status = 0, , velocity = 0] = e.data ?? [];
      if ((status & 0xf0) === 0x90 && velocity > 0) tap(e.timeStamp);
    };
    const inputs = [...access.inputs.values()];
    inputs.forEach((i) => {
      i.onmidimessage = onMessage;
    });
    return () =>
      inputs.forEach((i) => {
        i.onmidimessage = null;
      });
  }, [access, tap]);
  if (typeof navigator.requestMIDIAccess !== 'function') return { text, connect: null };
  const connect = (): void =>
    void navigator.requestMIDIAccess().then(
      (got) => {
        setAccess(got);
        setText(
          got.inputs.size === 0
            ? 'No MIDI keyboard is connected.'
            : `Every key of ${[...got.inputs.values()].map((i) => i.name ?? 'the keyboard').join(', ')} is a tap.`,
        );
      },
      () => setText('The browser does not let this page use MIDI. The key T works all the same.'),
    );
  return { text, connect: access ? null : connect };
}
