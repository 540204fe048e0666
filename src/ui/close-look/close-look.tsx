'use client';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { findingTitle } from '@/core/findings';
import { soundsAt, type Piece, piecesOf } from '@/core/arrange';
import { isTrack, type Track } from '@/core/session';
import { wholeTrack } from '@/core/tidy';
import { formatBarPulse, type SongMap } from '@/core/time';
import {
  findingsOf,
  laneSounds,
  songSeconds,
  type TrackPeaks,
  useSession,
  useSongMap,
  useTrackPeaks,
  useWorkbench,
} from '@/ui/client';
import {
  Button,
  Clock,
  cssColor,
  deviceRatio,
  drawWaveform,
  figureFont,
  fitted,
  freshCanvas,
  Icon,
  Kbd,
  LEVEL_SCALES,
  levelHeight,
  type LevelScale,
  panned,
  peakLevelFor,
  rulerStep,
  setLevelScale,
  Slider,
  useClock,
  useElementSize,
  useLevelScale,
  useShortcuts,
  useTheme,
  useWindowGestures,
  type WaveWindow,
  type WriteClock,
  zoomed,
} from '@/ui/kit';
import { laneSound, usePlayer, usePlayerState } from '@/ui/listening';
import { ClipHandles } from './clip-handles-layer';
import { drawSamples } from './draw-samples';
import { useSamples } from './samples';

const RULER = 18;
const WAVE = 124;
const FRAME = 3;
const FINEST_FRAMES = 256;
/** Nearest: so many frames over the whole width. */
const FEWEST_FRAMES = 24;
const KEY_ZOOM = 0.5;
const DRAG_PX = 4;

/** The selected track large, from the whole song down to single samples; `Z` opens and closes it. */
export function CloseLook() {
  const [open, setOpen] = useState(false);
  const current = useWorkbench((w) => w.current);
  const track = useSession((s) => (current === null ? undefined : s.view.session.nodes[current]));
  useShortcuts(useMemo(() => [{ key: 'z', shift: false, run: () => setOpen((o) => !o) }], []));
  if (!open) return null;
  return (
    <section className="fm-close-look" aria-label="Close look">
      {isTrack(track) && track.tiedTo === null ? (
        <Look key={track.id} track={track} onClose={() => setOpen(false)} />
      ) : (
        <div className="fm-close-head">
          <span className="fm-faint">Choose a track to look at it closely.</span>
          <span className="fm-top-spring" />
          <CloseButton onClose={() => setOpen(false)} />
        </div>
      )}
    </section>
  );
}

const CloseButton = ({ onClose }: { readonly onClose: () => void }) => (
  <Button tone="quiet" onClick={onClose} title="Close (Z)">
    <Icon name="x-lg" />
    <span className="fm-unseen">Close the close look</span>
  </Button>
);

function Look({ track, onClose }: { readonly track: Track; readonly onClose: () => void }) {
  const clock = useClock();
  const view = useSession((s) => s.view);
  const player = usePlayer();
  const scale = useLevelScale();
  const box = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(box);
  const drag = useRef<{ readonly x: number; readonly window: WaveWindow; moved: boolean } | null>(null);
  const songRate = view.session.sampleRateHz ?? 48_000;
  const length = Math.max(1, songSeconds(view.session, view.recordings));
  const limits = { lengthSeconds: length, shortestSeconds: FEWEST_FRAMES / songRate };
  const [wanted, setWindow] = useState<WaveWindow>({ from: 0, to: Infinity });
  const window = fitted(wanted, limits);
  const seconds = window.to - window.from;
  const change = (make: (w: WaveWindow) => WaveWindow): void => setWindow((w) => make(fitted(w, limits)));
  const position = usePlayerState((s) => s.positionSeconds);
  const centre = (): number => {
    const now = player.state.getState().positionSeconds;
    return now >= window.from && now <= window.to ? now : (window.from + window.to) / 2;
  };
  useEffect(() => box.current?.focus({ preventScroll: true }), []);
  useEffect(() => follow(player, setWindow, length), [player, length]);
  const isPinching = useWindowGestures(box, change, limits);
  const secondsAt = (event: PointerEvent): number =>
    window.from + ((event.clientX - event.currentTarget.getBoundingClientRect().left) / width) * seconds;
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.altKey || event.ctrlKey || event.metaKey) return;
    if (event.key === '+' || event.key === '=') change((w) => zoomed(w, KEY_ZOOM, centre(), limits));
    else if (event.key === '-') change((w) => zoomed(w, 1 / KEY_ZOOM, centre(), limits));
    else if (event.key === 'ArrowRight') change((w) => panned(w, 0.25, limits));
    else if (event.key === 'ArrowLeft') change((w) => panned(w, -0.25, limits));
    else if (event.key === 'Home') change((w) => panned(w, -1e9, limits));
    else if (event.key === 'End') change((w) => panned(w, 1e9, limits));
    else if (event.key === '0') setWindow({ from: 0, to: Infinity });
    else if (event.key === 'Escape') onClose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <div className="fm-close-head">
        <b className="fm-truncate">{track.name}</b>
        <span className="num fm-faint">
          from <Clock seconds={window.from} decimals={seconds < 0.1 ? 5 : 3} />, {lengthText(seconds)}
        </span>
        <span className="fm-top-spring" />
        <ScaleSwitch scale={scale} />
        <Button tone="quiet" onClick={() => change((w) => zoomed(w, 1 / KEY_ZOOM, centre(), limits))}>
          <Kbd>−</Kbd> Farther
        </Button>
        <Button tone="quiet" onClick={() => change((w) => zoomed(w, KEY_ZOOM, centre(), limits))}>
          <Kbd>+</Kbd> Closer
        </Button>
        <Button tone="quiet" onClick={() => setWindow({ from: 0, to: Infinity })}>
          <Kbd>0</Kbd> Whole song
        </Button>
        <CloseButton onClose={onClose} />
      </div>
      <div className="fm-close-stage">
        <div
          ref={box}
          className="fm-close-wave"
          tabIndex={0}
          role="slider"
          aria-label={`Waveform of ${track.name}`}
          aria-valuemin={0}
          aria-valuemax={Math.round(length)}
          aria-valuenow={Math.round(position)}
          aria-valuetext={`${clock(window.from)} to ${clock(window.to)} in sight`}
          onKeyDown={onKeyDown}
          onPointerDown={(e) => {
            if (isPinching.current) return;
            drag.current = { x: e.clientX, window, moved: false };
            e.currentTarget.setPointerCapture(e.pointerId);
          }}
          onPointerMove={(e) => {
            const held = drag.current;
            if (!held || isPinching.current || (!held.moved && Math.abs(e.clientX - held.x) < DRAG_PX))
              return;
            held.moved = true;
            const share = (held.x - e.clientX) / width;
            setWindow(panned(held.window, share, limits));
          }}
          onPointerUp={(e) => {
            if (drag.current && !drag.current.moved && !isPinching.current)
              player.seek(Math.max(0, secondsAt(e)));
            drag.current = null;
          }}
          onPointerCancel={() => {
            drag.current = null;
          }}
        >
          <Picture track={track} songRate={songRate} window={window} width={width} scale={scale} />
          <Places track={track} songRate={songRate} window={window} />
          {position >= window.from && position <= window.to && (
            <div className="fm-playhead" style={{ left: `${((position - window.from) / seconds) * 100}%` }} />
          )}
        </div>
        <ClipHandles {...{ track, songRate, window, width }} top={RULER} height={WAVE} />
      </div>
      <Slider
        className="fm-close-range"
        aria-label="Place in the song"
        min={0}
        max={Math.max(0, length - seconds)}
        step="any"
        value={window.from}
        disabled={seconds >= length}
        onChange={(e) => {
          const from = Number(e.target.value);
          setWindow({ from, to: from + seconds });
        }}
      />
    </>
  );
}

const SCALE_WORDS: Readonly<Record<LevelScale, readonly [text: string, title: string]>> = {
  lifted: ['lifted', 'Quiet sounds are drawn larger than in proportion'],
  linear: ['linear', 'Heights in proportion'],
  db: ['dB', 'Heights in dB, from −60 dBFS up'],
};

function ScaleSwitch({ scale }: { readonly scale: LevelScale }) {
  return (
    <span role="group" aria-label="Level scale of all waveforms" className="fm-scale">
      {LEVEL_SCALES.map((value) => (
        <Button
          key={value}
          tone="quiet"
          isOn={scale === value}
          title={SCALE_WORDS[value][1]}
          onClick={() => setLevelScale(value)}
        >
          {SCALE_WORDS[value][0]}
        </Button>
      ))}
    </span>
  );
}

const lengthText = (seconds: number): string =>
  seconds >= 60
    ? `${(seconds / 60).toFixed(1)} min`
    : seconds >= 1
      ? `${seconds.toFixed(1)} s`
      : `${(1000 * seconds).toFixed(seconds < 0.01 ? 2 : 0)} ms`;

/** While playing, the stretch goes along once the play position leaves it. */
function follow(
  player: ReturnType<typeof usePlayer>,
  setWindow: (change: (w: WaveWindow) => WaveWindow) => void,
  length: number,
): () => void {
  let before = player.state.getState().positionSeconds;
  return player.state.subscribe(({ positionSeconds: now, status }) => {
    const last = before;
    before = now;
    if (status === 'playing' && now !== last)
      setWindow((w) =>
        last >= w.from && last <= w.to && now > w.to
          ? fitted({ from: now, to: now + (w.to - w.from) }, { lengthSeconds: length, shortestSeconds: 0 })
          : w,
      );
  });
}

/** What sounds of a track as played. */
function usePieces(track: Track): readonly Piece<string>[] {
  const recordings = useSession((s) => s.view.recordings);
  return useMemo(() => {
    const soundOf = laneSounds(new Map(recordings.map((r) => [r.id, r])));
    return piecesOf(track, (lane) => {
      const found = soundOf(lane);
      return found && { ...found, sound: laneSound(lane) };
    });
  }, [track, recordings]);
}

interface PictureProps {
  readonly track: Track;
  readonly songRate: number;
  readonly window: WaveWindow;
  readonly width: number;
  readonly scale: LevelScale;
}

/** How pale what is cut is drawn. */
const CUT_ALPHA = 0.3;

/** The waveform of a track at a level. While a finer one is on its way the next coarser stands in: nothing ever blinks. */
function useWave(track: Track, level: number): TrackPeaks | null {
  const tracks = useMemo(() => [track], [track]);
  const fine = useTrackPeaks(tracks, level).get(track.id);
  const coarse = useTrackPeaks(tracks, 4096).get(track.id);
  return fine ?? coarse ?? null;
}

/** Levels marked at the side, dBFS. */
const LEVELS_DB = [-6, -12, -24, -48] as const;

function Picture({ track, songRate, window, width, scale }: PictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const clock = useClock();
  const { theme } = useTheme();
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const ratio = deviceRatio();
  const seconds = window.to - window.from;
  const framesPerColumn = width > 0 ? (seconds * songRate) / (width * ratio) : Infinity;
  const level = peakLevelFor(framesPerColumn);
  const wave = useWave(track, level);
  // What is cut stands pale behind: edges are pulled out to it.
  const whole = useWave(wholeTrack(track), level);
  const wantsSamples = framesPerColumn < FINEST_FRAMES;
  const from = window.from * songRate;
  const pieces = usePieces(track);
  const samples = useSamples(
    wantsSamples ? pieces : null,
    Math.floor(from),
    Math.ceil(from + seconds * songRate) + 1,
  );
  const bars = useSongMap();
  useEffect(() => {
    const context = freshCanvas(canvas.current, width, RULER + WAVE);
    if (!canvas.current || !context) return;
    // Room for the frame that shows where the keys go: marks at full scale stay in sight.
    const box = { x: 0, y: RULER + FRAME, width, height: WAVE - 2 * FRAME };
    drawRuler(context, { window, width, map: bars, clock });
    const levels = levelLines(box, scale);
    context.fillStyle = cssColor('--fm-lines');
    for (const { offset } of levels)
      for (const side of [-1, 1])
        context.fillRect(0, Math.round(box.y + box.height / 2 + side * offset), box.width, 1);
    const paint = {
      color: track.color ?? unknownColor,
      scale,
      clip: cssColor('--fm-clay'),
      pixel: 1 / ratio,
    };
    const near =
      samples !== null &&
      drawSamples(
        context,
        samples,
        box,
        { fromFrame: from, framesPerPx: (seconds * songRate) / width },
        paint,
      );
    canvas.current.dataset.shown = near ? 'samples' : String(wave?.peaks.framesPerEntry ?? '');
    const draw = ({ peaks, startSeconds }: TrackPeaks, alpha: number): void => {
      context.globalAlpha = alpha;
      const stretch = { fromSeconds: window.from - startSeconds, toSeconds: window.to - startSeconds };
      drawWaveform(context, peaks, box, stretch, paint);
      context.globalAlpha = 1;
    };
    if (whole && wholeTrack(track) !== track) draw(whole, CUT_ALPHA);
    if (!near && wave) draw(wave, 1);
    drawLevelNames(context, box, levels);
  });
  return (
    <canvas
      ref={canvas}
      data-level={wantsSamples ? 'samples' : level}
      data-theme={theme}
      style={{ width, height: RULER + WAVE, display: 'block' }}
      aria-hidden="true"
    />
  );
}

const FONT_PX = 11;
const APART_PX = 90;
const MOST_LINES = 400;

/** Moments along the top; bar lines where there is a map. */
function drawRuler(
  context: CanvasRenderingContext2D,
  {
    window,
    width,
    map,
    clock,
  }: {
    readonly window: WaveWindow;
    readonly width: number;
    readonly map: SongMap | null;
    readonly clock: WriteClock;
  },
): void {
  const seconds = window.to - window.from;
  const x = (s: number): number => ((s - window.from) / seconds) * width;
  context.font = figureFont(FONT_PX);
  const step = rulerStep(seconds / width, APART_PX);
  const digits = step >= 1 ? 0 : Math.min(6, Math.ceil(-Math.log10(step)));
  for (let i = Math.ceil(window.from / step), n = 0; i * step <= window.to && n < MOST_LINES; i++, n++) {
    context.fillStyle = cssColor('--fm-lines');
    context.fillRect(Math.round(x(i * step)), 0, 1, RULER);
    context.fillStyle = cssColor('--fm-muted');
    context.fillText(clock(i * step, digits), x(i * step) + 3, 12);
  }
  if (!map) return;
  const first = map.meters.toBar(map.tempo.toQuarters(window.from)).bar;
  context.fillStyle = cssColor('--fm-lake');
  for (let bar = Math.max(1, first), n = 0; n < MOST_LINES; bar++, n++) {
    const at = map.tempo.toSeconds(map.meters.barToQuarters(bar));
    if (at > window.to) break;
    if (
      at < window.from ||
      seconds / (map.tempo.toSeconds(map.meters.barToQuarters(bar + 1)) - at) > width / 8
    )
      continue;
    context.globalAlpha = 0.5;
    context.fillRect(Math.round(x(at)), RULER, 1, WAVE);
    context.globalAlpha = 1;
  }
}

interface LevelLine {
  readonly db: number;
  /** From the middle, px. */
  readonly offset: number;
}

/** Where levels lie; lines that would touch say nothing. */
function levelLines({ height }: { readonly height: number }, scale: LevelScale): LevelLine[] {
  const lines: LevelLine[] = [];
  for (const db of LEVELS_DB) {
    const offset = levelHeight(10 ** (db / 20), scale) * (height / 2 - 1);
    if ((lines.at(-1)?.offset ?? Infinity) - offset >= 13 && offset >= 8) lines.push({ db, offset });
  }
  return lines;
}

const LABEL_PX = 30;

/** Over the wave, each on a patch of the ground. */
function drawLevelNames(
  context: CanvasRenderingContext2D,
  box: { readonly y: number; readonly width: number; readonly height: number },
  lines: readonly LevelLine[],
): void {
  context.font = figureFont(FONT_PX);
  for (const { db, offset } of lines) {
    const y = box.y + box.height / 2 - offset;
    context.fillStyle = cssColor('--fm-raised');
    context.globalAlpha = 0.8;
    context.fillRect(box.width - LABEL_PX, y - 6, LABEL_PX, 12);
    context.globalAlpha = 1;
    context.fillStyle = cssColor('--fm-muted');
    context.fillText(`−${-db}`, box.width - LABEL_PX + 4, y + 4);
  }
}

/** Places something was noticed at, and places the file itself names. */
function Places({
  track,
  songRate,
  window,
}: {
  readonly track: Track;
  readonly songRate: number;
  readonly window: WaveWindow;
}) {
  const clock = useClock();
  const view = useSession((s) => s.view);
  const recording = view.recordings.find((r) => r.id === track.recordingId);
  const pieces = usePieces(track).filter((p) => p.laneId === track.laneId);
  const passing = recording?.passingHz ?? songRate;
  /** Moments of the song at which a moment of the recording is heard. */
  const heard = (seconds: number): number[] => {
    const frame = (seconds * (recording?.sampleRateHz ?? passing) * songRate) / passing;
    return pieces.flatMap((p) => soundsAt(p, frame) ?? []).map((f) => f / songRate);
  };
  const bars = useSongMap();
  const noticed = findingsOf(view).open.flatMap((f) =>
    f.files
      .filter((p) => p.id === track.recordingId)
      .flatMap((p) =>
        p.places.map((place) => ({ seconds: place.seconds, text: findingTitle(f.code), finding: true })),
      ),
  );
  const named = (recording?.metadata.markers ?? []).map((m) => ({
    seconds: m.frame / (recording?.sampleRateHz ?? 48_000),
    text: m.label || 'marker',
    finding: false,
  }));
  const seen = [...noticed, ...named]
    .flatMap((p) => heard(p.seconds).map((at) => ({ ...p, at })))
    .filter((p) => p.at >= window.from && p.at <= window.to);
  return seen.map((p, i) => {
    const where = bars ? `${formatBarPulse(bars, p.at)}, ${clock(p.at, 3)}` : clock(p.at, 3);
    return (
      <span
        key={i}
        className={`fm-close-place ${p.finding ? 'fm-attention' : 'fm-lake'}`}
        style={{ left: `${((p.at - window.from) / (window.to - window.from)) * 100}%` }}
        title={`${p.text} (${where})`}
      >
        <Icon name={p.finding ? 'caret-down-fill' : 'bookmark-fill'} />
      </span>
    );
  });
}
