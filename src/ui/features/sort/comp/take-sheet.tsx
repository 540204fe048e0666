'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { songSeconds, useSession, useTrackPeaks, useWorkbench } from '@/ui/client';
import {
  clockStep,
  deviceRatio,
  fitted,
  peakLevelFor,
  type Sight,
  useClock,
  useElementSize,
  useShortcuts,
  useWindowGestures,
  type WaveWindow,
  zoomed,
} from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import type { CompRow } from './comp-rows';
import { rowId, TakeRow } from './take-row';
import type { Comp } from './use-comp';

/** Heights of rows, and what stands beside the picture, CSS px: as in the style sheet. */
const [TRACK_HEIGHT, TAKE_HEIGHT] = [48, 36];
const BEFORE = 248;
const LEAST_WAVE = 80;
/** What is drawn before the window is measured. */
const FIRST_RECT = { width: 812, height: 400 };
/** Nearest stretch in sight, s. */
const NEAREST_SECONDS = 1;

/** Packed tracks with what sounds of them, and their takes under those that are unfolded. */
export function TakeSheet({ comp }: { readonly comp: Comp }) {
  const { rows } = comp;
  const scroller = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(scroller);
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const current = useWorkbench((w) => w.current);
  const rateHz = session.sampleRateHz ?? 48_000;
  const lengths = useMemo(() => new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0])), [recordings]);
  const ends = rows.map((r) => (r.drawn.startFrames + (lengths.get(r.drawn.recordingId) ?? 0)) / rateHz);
  const sight = useSight(Math.max(1, songSeconds(session, recordings), ...ends));
  useSightKeys(sight, comp.phrase);
  const { window } = sight;
  const wave = Math.max(LEAST_WAVE, Math.floor((width || FIRST_RECT.width) - BEFORE));
  // Its functions stay here: nothing memoised depends on them.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => heightOf(rows[i]),
    overscan: 6,
    initialRect: FIRST_RECT,
  });
  const items = virtual.getVirtualItems();
  useEffect(() => virtual.measure(), [rows, virtual]);
  const drawn = useMemo(() => rows.map((r) => r.drawn), [rows]);
  const inSight = drawn.slice(items[0]?.index ?? 0, (items.at(-1)?.index ?? -1) + 1);
  const peaks = useTrackPeaks(
    inSight,
    peakLevelFor(((window.to - window.from) * rateHz) / (wave * deviceRatio())),
  );
  const laneId = comp.lane?.id ?? null;
  const inHand = rows.find((r) => r.track.id === current && (r.lane?.id ?? null) === laneId);
  useEffect(() => {
    const at = inHand ? rows.indexOf(inHand) : -1;
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Following the row in hand only; the virtualiser itself is stable.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current, laneId]);
  return (
    <div
      className="fm-grid fm-takes-grid"
      role="treegrid"
      tabIndex={0}
      aria-label="Tracks put together from takes"
      aria-rowcount={rows.length + 1}
      {...(inHand ? { 'aria-activedescendant': rowId(inHand) } : {})}
    >
      <Head width={wave} sight={sight} />
      <div ref={scroller} className="fm-scroll fm-sheet">
        <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = rows[item.index];
            return (
              row && (
                <TakeRow
                  key={row.id}
                  row={row}
                  comp={comp}
                  place={{ index: item.index, top: item.start, height: heightOf(row) }}
                  wave={peaks.get(row.drawn.id) ?? null}
                  width={wave}
                  window={window}
                  lengths={lengths}
                  rateHz={rateHz}
                />
              )
            );
          })}
          <Playhead width={wave} window={window} />
        </div>
      </div>
    </div>
  );
}

const heightOf = (row: CompRow | undefined): number => (row?.lane ? TAKE_HEIGHT : TRACK_HEIGHT);

/** The stretch in sight: the whole song at first. */
function useSight(lengthSeconds: number): Sight {
  const limits = { lengthSeconds, shortestSeconds: NEAREST_SECONDS };
  const [near, setNear] = useState<WaveWindow | null>(null);
  const window = fitted(near ?? { from: 0, to: lengthSeconds }, limits);
  return { window, limits, change: (make) => setNear(make(window)) };
}

/** Nearer and farther by keys, around the phrase in hand, or the play position. */
function useSightKeys({ change, limits }: Sight, phrase: Comp['phrase']): void {
  const player = usePlayer();
  const zoom = (factor: number): void => {
    const at = phrase ? (phrase.fromSeconds + phrase.toSeconds) / 2 : player.state.getState().positionSeconds;
    change((w) => {
      const next = zoomed(w, factor, at, limits);
      const length = next.to - next.from;
      // What it goes around was out of sight: it comes to the middle.
      return at < w.from || at > w.to ? fitted({ from: at - length / 2, to: at + length / 2 }, limits) : next;
    });
  };
  useShortcuts([
    { key: '.', run: () => zoom(0.5) },
    { key: ',', run: () => zoom(2) },
  ]);
}

/** The ruler: the wheel, or two fingers, on it go nearer and farther. */
function Head({
  width,
  sight: { window, limits, change },
}: {
  readonly width: number;
  readonly sight: Sight;
}) {
  const clock = useClock();
  const ruler = useRef<HTMLSpanElement>(null);
  useWindowGestures(ruler, change, limits);
  const span = window.to - window.from;
  const step = clockStep(width / span, 60);
  const first = Math.ceil(window.from / step);
  const ticks = Array.from(
    { length: Math.max(0, Math.floor(window.to / step) - first + 1) },
    (_, i) => (first + i) * step,
  );
  return (
    <div className="fm-sheet-head" role="row">
      <span className="fm-take-name" role="columnheader">
        Track · takes
      </span>
      <span
        ref={ruler}
        className="fm-ruler fm-tidy-picture"
        role="columnheader"
        title="Wheel, or , and . : farther, nearer; Shift and wheel: along the song"
      >
        <span className="fm-unseen">What sounds</span>
        {ticks.map((t) => (
          <span key={t} style={{ left: ((t - window.from) / span) * width }} aria-hidden="true">
            {clock(t, step < 1 ? 1 : 0)}
          </span>
        ))}
      </span>
    </div>
  );
}

function Playhead({ width, window }: { readonly width: number; readonly window: WaveWindow }) {
  const position = usePlayerState((s) => s.positionSeconds);
  const share = (position - window.from) / (window.to - window.from);
  return share < 0 || share > 1 ? null : (
    <div className="fm-sheet-playhead" style={{ left: BEFORE + share * width }} />
  );
}
