'use client';
import { type PointerEvent as Pointing, useMemo, useRef, useState } from 'react';
import { formatBarPulse, type Meter, pulseQuarters, snapQuarters } from '@/core/time';
import { useSession } from '@/ui/client';
import { axis, roundTicks, useElementSize, widened } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import { useSnap } from './snap-choice';
import { tempoCurve, type TempoModel } from './tempo-model';

const HEIGHT = 190;
const PAD = { left: 8, right: 44, top: 26, bottom: 18 };
/** More points than these are drawn as the line they make. */
const MOST_POINTS = 120;
/** How near a point is taken hold of, px. */
const GRIP = 9;
/** With Shift a point moves by so much of the way of the hand. */
const FINE = 0.1;

/** The hand has to go so far before it is known where to, px. */
const DECIDED = 5;

/** A point in hand: up and down is its tempo, sideways its place; which of them, the first few pixels tell. */
interface Drag {
  readonly point: number;
  readonly way: 'tempo' | 'place' | null;
  readonly bpm: number;
  readonly quarters: number;
  readonly from: readonly [number, number];
  readonly fromBpm: number;
}

/**
 * Tempo over the whole song: each pulse as measured a dot, the mean over a bar a line, doubt as a band; a map of few points as
 * its own line, whose points are drawn up and down, and sideways; the stretch in view below is framed.
 */
export function TempoPlot({
  model,
  length,
  window,
  onSeek,
  onTempo,
  onPlace,
}: {
  readonly model: TempoModel;
  readonly length: number;
  readonly window: { readonly from: number; readonly to: number };
  readonly onSeek: (seconds: number) => void;
  readonly onTempo: (point: number, bpm: number) => void;
  /** A point is drawn sideways, to a place in quarters. */ readonly onPlace: (
    point: number,
    quarters: number,
  ) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(box);
  const position = usePlayerState((s) => s.positionSeconds);
  const markers = useSession((s) => s.view.session.markers);
  const curve = useMemo(() => tempoCurve(model), [model]);
  const [drag, setDrag] = useState<Drag | null>(null);
  const snap = useSnap();
  const { tempo } = model.map;
  const perPulse = pulseQuarters(model.reading.meters[0] as Meter);
  const written = useMemo(
    () =>
      tempo.points.length > MOST_POINTS
        ? null
        : tempo.points.slice(0, -1).map((p, i) => ({
            from: p.seconds,
            to: (tempo.points[i + 1] as { seconds: number }).seconds,
            bpm: tempo.tempoAt(p.quarters) / perPulse,
            ends: (tempo.tempoAt(p.quarters) / perPulse) * (p.ramp ?? 1),
          })),
    [tempo, perPulse],
  );
  if (curve.length === 0) return <div ref={box} />;
  const sorted = [...curve.map((c) => c.smooth), ...(written ?? []).flatMap((s) => [s.bpm, s.ends])].sort(
    (a, b) => a - b,
  );
  const at = (share: number): number => sorted[Math.floor(sorted.length * share)] as number;
  const [low, high] = widened([at(0.02) - 3, at(0.98) + 3], 5);
  const span = HEIGHT - PAD.top - PAD.bottom;
  const x = axis([0, length], [PAD.left, Math.max(PAD.left + 1, width - PAD.right)]);
  const y = axis([low, high], [PAD.top + span, PAD.top], true);
  const ticks = roundTicks([low, high], 5);
  const band = [
    ...curve.map((c) => `${x(c.seconds)},${y(c.smooth + 6 * (1 - c.confidence))}`),
    ...[...curve].reverse().map((c) => `${x(c.seconds)},${y(c.smooth - 6 * (1 - c.confidence))}`),
  ].join(' ');
  const bpmOf = (i: number): number =>
    drag?.point === i && drag.way === 'tempo' ? drag.bpm : (written?.[i]?.bpm ?? 0);
  const placeOf = (e: Pointing<SVGSVGElement>): readonly [number, number] => {
    const r = e.currentTarget.getBoundingClientRect();
    return [e.clientX - r.left, e.clientY - r.top];
  };
  const secondsAt = (px: number): number => Math.max(0, x.invert(px));
  const down = (e: Pointing<SVGSVGElement>): void => {
    const [px, py] = placeOf(e);
    const point = (written ?? []).findIndex((s) => Math.hypot(x(s.from) - px, y(s.bpm) - py) <= GRIP);
    if (point < 0) return onSeek(secondsAt(px));
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({
      point,
      way: null,
      bpm: bpmOf(point),
      quarters: tempo.points[point]?.quarters ?? 0,
      from: [px, py],
      fromBpm: bpmOf(point),
    });
  };
  const pull = (e: Pointing<SVGSVGElement>): void => {
    if (!drag) return;
    const [px, py] = placeOf(e);
    const [dx, dy] = [px - drag.from[0], py - drag.from[1]];
    // The first point and the last hold the map where it is.
    const way =
      drag.way ??
      (Math.hypot(dx, dy) < DECIDED
        ? null
        : Math.abs(dx) > Math.abs(dy) && drag.point > 0
          ? 'place'
          : 'tempo');
    const bpm =
      way === 'tempo'
        ? Math.max(10, drag.fromBpm + (-dy / span) * (high - low) * (e.shiftKey ? FINE : 1))
        : drag.bpm;
    const own = tempo.points[drag.point]?.seconds ?? 0;
    const quarters =
      way === 'place'
        ? snapQuarters(
            model.map.meters,
            tempo.toQuarters(e.shiftKey ? own + FINE * (secondsAt(px) - own) : secondsAt(px)),
            snap,
          )
        : drag.quarters;
    // It stays between its neighbours.
    const isFree =
      quarters > (tempo.points[drag.point - 1]?.quarters ?? -Infinity) &&
      quarters < (tempo.points[drag.point + 1]?.quarters ?? Infinity);
    setDrag({ ...drag, way, bpm, quarters: isFree ? quarters : drag.quarters });
  };
  const release = (): void => {
    if (drag?.way === 'tempo' && Math.abs(drag.bpm - drag.fromBpm) > 0.01) onTempo(drag.point, drag.bpm);
    if (drag?.way === 'place' && Math.abs(drag.quarters - (tempo.points[drag.point]?.quarters ?? 0)) > 1e-6)
      onPlace(drag.point, drag.quarters);
    setDrag(null);
  };
  const goesTo = drag?.way === 'place' ? tempo.toSeconds(drag.quarters) : null;
  return (
    <div ref={box} className="fm-plot" style={{ height: HEIGHT }}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Tempo over the song, between ${low} and ${high} BPM`}
        onPointerDown={down}
        onPointerMove={pull}
        onPointerUp={release}
        onPointerCancel={() => setDrag(null)}
      >
        <text x={14} y={17} className="fm-plot-title">
          Tempo, BPM
          {drag?.way === 'tempo'
            ? `: ${drag.bpm.toFixed(2)} (Shift: finer)`
            : goesTo !== null
              ? `: the change comes at ${formatBarPulse(model.map, goesTo + 0.0005)} (Shift: finer)`
              : ''}
        </text>
        {ticks.map((t) => (
          <g key={t}>
            <line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} className="fm-plot-line" />
            <text x={width - 8} y={y(t) + 4} textAnchor="end" className="fm-plot-tick">
              {t}
            </text>
          </g>
        ))}
        <rect
          x={x(window.from)}
          width={Math.max(2, x(window.to) - x(window.from))}
          y={PAD.top - 4}
          height={span + 8}
          className="fm-plot-window"
        />
        {markers.map((m) => (
          <g key={m.id}>
            <line
              x1={x(m.seconds)}
              x2={x(m.seconds)}
              y1={PAD.top - 4}
              y2={HEIGHT - PAD.bottom}
              className="fm-plot-line"
            />
            <text x={x(m.seconds) + 4} y={HEIGHT - 5} className="fm-plot-tick">
              {m.name.slice(0, 16)}
            </text>
          </g>
        ))}
        <polygon points={band} className="fm-plot-band" />
        {curve.map((c, i) => (
          <circle
            key={c.seconds}
            cx={x(c.seconds)}
            cy={y(c.bpm)}
            r={model.pulses[i]?.pinned ? 3 : 1.6}
            className={model.pulses[i]?.pinned ? 'fm-plot-pin' : 'fm-plot-dot'}
          />
        ))}
        {written === null ? (
          <polyline
            points={curve.map((c) => `${x(c.seconds)},${y(c.smooth)}`).join(' ')}
            className="fm-plot-curve"
          />
        ) : (
          <>
            <polyline
              points={written
                .flatMap((s, i) => {
                  const moved = bpmOf(i) - s.bpm;
                  return [
                    `${x(s.from)},${y(s.bpm + moved)}`,
                    `${x(s.to)},${y(s.ends + (s.ends === s.bpm ? moved : 0))}`,
                  ];
                })
                .join(' ')}
              className="fm-plot-curve"
            />
            {written.map((s, i) => (
              <rect
                key={s.from}
                x={x(s.from) - 4}
                y={y(bpmOf(i)) - 4}
                width={8}
                height={8}
                className="fm-plot-point"
              />
            ))}
          </>
        )}
        {goesTo !== null && (
          <line
            x1={x(goesTo)}
            x2={x(goesTo)}
            y1={PAD.top - 4}
            y2={HEIGHT - PAD.bottom + 4}
            className="fm-plot-going"
          />
        )}
        <line
          x1={x(position)}
          x2={x(position)}
          y1={PAD.top - 4}
          y2={HEIGHT - PAD.bottom + 4}
          className="fm-plot-now"
        />
      </svg>
    </div>
  );
}
