'use client';
import { type PointerEvent as Pointing, useEffect, useMemo, useRef } from 'react';
import type { PlayedHits } from '@/contracts';
import type { Track } from '@/core/session';
import { deviationsOf } from '@/core/tempo';
import {
  cssColor,
  drawWaveform,
  figureFont,
  useElementSize,
  useLevelScale,
  useTheme,
  useWindowPan,
  type Sight,
  useHeld,
} from '@/ui/kit';
import { useSession, useTrackPeaks } from '@/ui/client';
import { usePlayerState } from '@/ui/listening';
import { drawHits, drawPulses } from './draw-lanes';
import { gridLines, nearestPulse, type TempoModel } from './tempo-model';

const LABEL = 150;
const HEAD = 38;
/** Upper part of the head: bar numbers; below them the pulses to take hold of. */
const NUMBERS = 20;
/** How near a pulse is taken hold of, px. */
const GRIP = 9;
const FINE_FRAMES = 256;

/** Waveforms of the timekeepers under the grid: does each line stand on a hit? Pulses are taken hold of in the strip above them. */
export function TimekeeperLanes({
  model,
  marks,
  tracks,
  hits,
  divided,
  sight,
  hand,
  onHand,
  onMove,
  onSeek,
}: {
  readonly model: TempoModel | null;
  /** What is taken hold of: the pulses, or taps that are no map yet. */ readonly marks: TempoModel['pulses'];
  readonly tracks: readonly Track[];
  readonly hits: ReadonlyMap<string, PlayedHits>;
  readonly divided: number;
  readonly sight: Sight;
  readonly hand: number;
  readonly onHand: (mark: number) => void;
  readonly onMove: (mark: number, seconds: number) => void;
  readonly onSeek: (seconds: number) => void;
}) {
  const { window } = sight;
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height } = useElementSize(box);
  const pan = useWindowPan(canvas, sight, onSeek);
  const { theme } = useTheme();
  const scale = useLevelScale();
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const shown = useMemo(() => tracks.slice(0, 8), [tracks]);
  const peaks = useTrackPeaks(shown, FINE_FRAMES);
  const position = usePlayerState((s) => s.positionSeconds);
  const laneHeight =
    shown.length > 0 ? Math.max(30, Math.min(64, Math.floor((height - HEAD - 8) / shown.length))) : 0;
  const wide = Math.max(1, width - LABEL);
  const held = useHeld<{ readonly pulse: number; readonly seconds: number; readonly moved: boolean }>();
  const drag = held.shown;
  const deviations = useMemo(
    () =>
      new Map(
        [...hits].map(([id, h]) => [
          id,
          model
            ? deviationsOf(model.map, h.seconds, divided)
            : h.seconds.map((seconds) => ({ seconds, late: null })),
        ]),
      ),
    [hits, model, divided],
  );
  const secondsAt = (e: Pointing<HTMLElement>): number => {
    const r = e.currentTarget.getBoundingClientRect();
    return window.from + ((e.clientX - r.left) / r.width) * (window.to - window.from);
  };
  const grip = (e: Pointing<HTMLElement>): void => {
    const seconds = secondsAt(e);
    const pulse = nearestPulse(marks, seconds);
    const off = Math.abs((marks[pulse]?.seconds ?? Infinity) - seconds) * (wide / (window.to - window.from));
    if (off > GRIP) return onSeek(Math.max(0, seconds));
    e.currentTarget.setPointerCapture(e.pointerId);
    held.hold({ pulse, seconds: marks[pulse]?.seconds ?? seconds, moved: false });
  };
  const pull = (e: Pointing<HTMLElement>): void => {
    const now = held.latest();
    if (!now) return;
    const seconds = secondsAt(e);
    const byPx = Math.abs(seconds - now.seconds) * (wide / (window.to - window.from));
    held.hold({ ...now, seconds, moved: now.moved || byPx > 2 });
  };
  const release = (): void => {
    const left = held.letGo();
    if (left?.moved) onMove(left.pulse, left.seconds);
    else if (left) onHand(left.pulse);
  };

  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!canvas.current || !context || wide <= 1) return;
    const ratio = globalThis.devicePixelRatio || 1;
    const tall = HEAD + shown.length * laneHeight;
    canvas.current.width = wide * ratio;
    canvas.current.height = tall * ratio;
    context.scale(ratio, ratio);
    context.clearRect(0, 0, wide, tall);
    const x = (s: number): number => ((s - window.from) / (window.to - window.from)) * wide;
    shown.forEach((t, i) => {
      const own = peaks.get(t.id);
      const top = HEAD + i * laneHeight;
      context.fillStyle = cssColor('--fm-lines');
      context.fillRect(0, top + laneHeight - 1, wide, 1);
      if (own)
        drawWaveform(
          context,
          own.peaks,
          { x: 0, y: top + 2, width: wide, height: laneHeight - 4 },
          {
            fromSeconds: window.from - own.startSeconds,
            toSeconds: window.to - own.startSeconds,
          },
          { color: t.color ?? unknownColor, scale, clip: cssColor('--fm-clay'), pixel: 1 / ratio },
        );
    });
    const lines = model ? gridLines(model.map, window.from, window.to) : [];
    const crowded = lines.length > wide / 10;
    shown.forEach((t, i) =>
      drawHits(context, deviations.get(t.id) ?? [], {
        x,
        from: window.from,
        to: window.to,
        bottom: HEAD + (i + 1) * laneHeight - 1,
        written: laneHeight >= 34,
      }),
    );
    context.font = figureFont(13, 600);
    for (const line of lines) {
      if (crowded && line.bar === null) continue;
      context.fillStyle = line.bar !== null ? cssColor('--fm-ink') : cssColor('--fm-muted');
      context.globalAlpha = line.bar !== null ? 0.9 : 0.45;
      context.fillRect(Math.round(x(line.seconds)), line.bar !== null ? 0 : NUMBERS + 6, 1, tall);
      context.globalAlpha = 1;
      if (line.bar !== null) context.fillText(String(line.bar), x(line.seconds) + 5, 15);
    }
    if (!crowded)
      drawPulses(context, marks, {
        x,
        from: window.from,
        to: window.to,
        middle: NUMBERS + 10,
        hand,
        drag,
        tall,
      });
  }, [
    model,
    marks,
    shown,
    peaks,
    window.from,
    window.to,
    wide,
    laneHeight,
    theme,
    scale,
    unknownColor,
    deviations,
    hand,
    drag,
  ]);

  const now = ((position - window.from) / (window.to - window.from)) * wide;
  return (
    <div ref={box} className="fm-lanes">
      {shown.map((t, i) => (
        <div
          key={t.id}
          className="fm-lane-label"
          style={{ top: HEAD + i * laneHeight, height: laneHeight, width: LABEL }}
          title={t.receivedName}
        >
          <b>{t.name}</b>
        </div>
      ))}
      <canvas
        ref={canvas}
        style={{
          position: 'absolute',
          left: LABEL,
          top: 0,
          width: wide,
          height: HEAD + shown.length * laneHeight,
        }}
        aria-label="Waveforms of the timekeepers with beat lines"
        {...pan}
      />
      <div
        className="fm-pulse-strip"
        style={{ left: LABEL, width: wide, top: 0, height: HEAD }}
        title="Drag a pulse or a tap to move it; click one to select it"
        onPointerDown={grip}
        onPointerMove={pull}
        onPointerUp={release}
        onPointerCancel={() => held.letGo()}
      />
      {now >= -0.5 && now <= wide + 0.5 && <div className="fm-playhead" style={{ left: LABEL + now }} />}
      {shown.length === 0 && <p className="fm-faint fm-inside-3 fm-sides-3">No timekeepers are chosen.</p>}
    </div>
  );
}
