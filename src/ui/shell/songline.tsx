'use client';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { isHeard, tracksInOrder } from '@/core/session';
import { rowColor } from '@/core/style';
import { formatBarPulse, type SongMap, tempoSegments } from '@/core/time';
import {
  barStep,
  cssColor,
  figureFont,
  peakLevelFor,
  sumShape,
  useClock,
  useElementSize,
  useTheme,
} from '@/ui/kit';
import { doubtsOf, songSeconds, tempoInHand, useSession, useSongMap, useTrackPeaks } from '@/ui/client';
import { usePlayer, usePlayerState } from '@/ui/listening';

const HEIGHT = 72;
/** A pointer that went less far, as a share of the song, only pointed. */
const CLICK_SHARE = 0.005;

/** The song end to end: summed waveform, tempo line, bars, doubts as ticks, play position. Click to go there, drag to repeat a stretch. */
export function Songline() {
  const clock = useClock();
  const { session, recordings, style, tempo } = useSession((s) => s.view);
  const player = usePlayer();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const drag = useRef<number | null>(null);
  const [drawn, setDrawn] = useState<{ readonly from: number; readonly to: number } | null>(null);
  const { width } = useElementSize(box);
  const { theme } = useTheme();
  const loop = usePlayerState((s) => s.loop);
  const position = usePlayerState((s) => s.positionSeconds);
  const rate = session.sampleRateHz ?? 48_000;
  const length = Math.max(1, songSeconds(session, recordings));
  const audible = useMemo(() => tracksInOrder(session).filter((t) => isHeard(session, t)), [session]);
  const peaks = useTrackPeaks(audible, peakLevelFor((length * rate) / Math.max(1, width)));
  const map = useSongMap();

  // Of the session's map, also while a newer detection is looked at.
  const doubts = useMemo(
    () => doubtsOf(tempoInHand({ session, tempo }, tempo?.jobId ?? null).reading),
    [session, tempo],
  );

  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!canvas.current || !context || width <= 0) return;
    const ratio = window.devicePixelRatio || 1;
    canvas.current.width = width * ratio;
    canvas.current.height = HEIGHT * ratio;
    context.scale(ratio, ratio);
    context.clearRect(0, 0, width, HEIGHT);
    const shape = sumShape([...peaks.values()], Math.floor(width), length);
    const most = Math.max(1e-3, ...shape);
    context.fillStyle = cssColor('--fm-wave-sum');
    shape.forEach((v, x) => {
      const h = (v / most) * (HEIGHT - 26);
      context.fillRect(x, 10 + (HEIGHT - 14 - h) / 2, 1, Math.max(1, h));
    });
    if (map)
      drawMap(context, map, {
        width,
        length,
        line: cssColor('--fm-lake'),
        faint: cssColor('--fm-lines'),
        text: cssColor('--fm-muted'),
      });
  }, [peaks, width, length, map, theme]);

  const secondsAt = (event: PointerEvent): number => {
    const rect = event.currentTarget.getBoundingClientRect();
    return Math.max(0, Math.min(length, ((event.clientX - rect.left) / rect.width) * length));
  };
  const letGo = (): void => {
    drag.current = null;
    setDrawn(null);
  };
  const isClick = (from: number, to: number): boolean => Math.abs(to - from) / length < CLICK_SHARE;
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = event.shiftKey ? 10 : 1;
    if (event.key === 'ArrowRight') player.seek(Math.min(length, position + step));
    else if (event.key === 'ArrowLeft') player.seek(position - step);
    else return;
    event.preventDefault();
  };
  return (
    <div
      ref={box}
      className="fm-songline"
      role="slider"
      tabIndex={0}
      aria-label="Song position"
      aria-valuemin={0}
      aria-valuemax={Math.round(length)}
      aria-valuenow={Math.round(position)}
      aria-valuetext={clock(position)}
      onKeyDown={onKeyDown}
      onPointerDown={(e) => {
        drag.current = Number((e.target as HTMLElement).dataset.seconds ?? secondsAt(e));
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={(e) => {
        const from = drag.current;
        if (from === null) return;
        const to = secondsAt(e);
        if (!isClick(from, to)) setDrawn({ from: Math.min(from, to), to: Math.max(from, to) });
      }}
      onPointerCancel={letGo}
      onPointerUp={(e) => {
        const from = drag.current;
        letGo();
        if (from === null) return;
        const to = secondsAt(e);
        if (isClick(from, to)) {
          player.setLoop(null);
          player.seek(Math.max(0, from));
        } else {
          player.seek(Math.min(from, to));
          player.setLoop({ fromSeconds: Math.min(from, to), toSeconds: Math.max(from, to) });
        }
      }}
    >
      <canvas ref={canvas} style={{ width, height: HEIGHT }} aria-hidden="true" />
      {session.markers.map((m, i) => (
        <span
          key={m.id}
          className="fm-marker"
          data-seconds={m.seconds}
          style={{
            borderColor: rowColor(style, 'section', m.name),
            left: `${(m.seconds / length) * 100}%`,
            maxWidth: `${(((session.markers[i + 1]?.seconds ?? length) - m.seconds) / length) * 100}%`,
          }}
          title={`${m.name} · ${map ? formatBarPulse(map, m.seconds) : clock(m.seconds, 1)}`}
        >
          {m.name}
        </span>
      ))}
      {map &&
        doubts.map((d) => (
          <span
            key={d.seconds}
            className="fm-doubt"
            style={{ left: `${(d.seconds / length) * 100}%` }}
            title={`${formatBarPulse(map, d.seconds)}: ${d.isBarLine ? 'is this a bar line,' : 'the grid is uncertain here,'} confidence ${d.confidence.toFixed(2)}`}
          />
        ))}
      {drawn && (
        <div
          className="fm-loop"
          style={{
            left: `${(drawn.from / length) * 100}%`,
            width: `${((drawn.to - drawn.from) / length) * 100}%`,
          }}
        />
      )}
      {loop && !drawn && (
        <div
          className="fm-loop"
          style={{
            left: `${(loop.startFrames / rate / length) * 100}%`,
            width: `${((loop.endFrames - loop.startFrames) / rate / length) * 100}%`,
          }}
          title="Repeated stretch: click anywhere to play on"
        />
      )}
      <div className="fm-playhead" style={{ left: `${Math.min(100, (position / length) * 100)}%` }} />
    </div>
  );
}

interface MapPaint {
  readonly width: number;
  readonly length: number;
  readonly line: string;
  readonly faint: string;
  readonly text: string;
}

/** Bar numbers along the top and the tempo as a line. */
function drawMap(context: CanvasRenderingContext2D, map: SongMap, paint: MapPaint): void {
  const x = (seconds: number): number => (seconds / paint.length) * paint.width;
  const bars: number[] = [];
  for (let bar = 1; bar < 5000; bar++) {
    const at = x(map.tempo.toSeconds(map.meters.barToQuarters(bar)));
    if (at > paint.width) break;
    bars.push(at);
  }
  const every = barStep(((bars.at(-1) ?? 0) - (bars[0] ?? 0)) / Math.max(1, bars.length), 40);
  context.font = figureFont(11);
  bars.forEach((at, i) => {
    if (i % every !== 0) return;
    context.fillStyle = paint.faint;
    context.fillRect(Math.round(at), 0, 1, HEIGHT);
    context.fillStyle = paint.text;
    context.fillText(String(map.meters.numberOf(i + 1)), at + 3, 10);
  });
  const tempi = tempoSegments(map.tempo);
  const low = Math.min(...tempi.map((t) => t.bpm)) - 2;
  const high = Math.max(...tempi.map((t) => t.bpm)) + 2;
  context.strokeStyle = paint.line;
  context.lineWidth = 1.5;
  context.beginPath();
  tempi.forEach((t, i) => {
    const y = HEIGHT - 6 - ((t.bpm - low) / (high - low)) * (HEIGHT - 24);
    if (i === 0) context.moveTo(x(t.time), y);
    else context.lineTo(x(t.time), y);
  });
  if (tempi.length === 1) context.lineTo(paint.width, HEIGHT / 2);
  context.stroke();
}
