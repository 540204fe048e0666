'use client';
import { type PointerEvent as Pointing, useMemo, useRef, useState } from 'react';
import { type Meter, pulseQuarters } from '@/core/time';
import { useSession } from '@/ui/client';
import { useElementSize } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import { tempoCurve, type TempoModel } from './tempo-model';

const HEIGHT = 190;
const PAD = { left: 8, right: 44, top: 26, bottom: 18 };
/** More points than these are drawn as the line they make. */
const MOST_POINTS = 120;
/** How near a point is taken hold of, px. */
const GRIP = 9;
/** With Shift a point moves by so much of the way of the hand. */
const FINE = 0.1;

/**
 * Tempo over the whole song: each pulse as measured a dot, the mean over a bar a line, doubt as a band; a map of few points as
 * its own line, whose points are drawn up and down; the stretch in view below is framed.
 */
export function TempoPlot({ model, length, window, onSeek, onTempo }: { readonly model: TempoModel; readonly length: number; readonly window: { readonly from: number; readonly to: number }; readonly onSeek: (seconds: number) => void; readonly onTempo: (point: number, bpm: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(box);
  const position = usePlayerState((s) => s.positionSeconds);
  const markers = useSession((s) => s.view.session.markers);
  const curve = useMemo(() => tempoCurve(model), [model]);
  const [drag, setDrag] = useState<{ readonly point: number; readonly bpm: number; readonly fromY: number; readonly fromBpm: number } | null>(null);
  const { tempo } = model.map;
  const perPulse = pulseQuarters(model.reading.meters[0] as Meter);
  const written = useMemo(() => (tempo.points.length > MOST_POINTS ? null : tempo.points.slice(0, -1).map((p, i) => ({ from: p.seconds, to: (tempo.points[i + 1] as { seconds: number }).seconds, bpm: tempo.tempoAt(p.quarters) / perPulse, ends: (tempo.tempoAt(p.quarters) / perPulse) * (p.ramp ?? 1) }))), [tempo, perPulse]);
  if (curve.length === 0) return <div ref={box} />;
  const sorted = [...curve.map((c) => c.smooth), ...(written ?? []).flatMap((s) => [s.bpm, s.ends])].sort((a, b) => a - b);
  const low = Math.floor(((sorted[Math.floor(sorted.length * 0.02)] as number) - 3) / 2) * 2;
  const high = Math.ceil(((sorted[Math.floor(sorted.length * 0.98)] as number) + 3) / 2) * 2;
  const x = (s: number): number => PAD.left + (s / length) * Math.max(1, width - PAD.left - PAD.right);
  const span = HEIGHT - PAD.top - PAD.bottom;
  const y = (bpm: number): number => PAD.top + (1 - (Math.max(low, Math.min(high, bpm)) - low) / (high - low)) * span;
  const step = [1, 2, 4, 5, 10, 20].find((s) => (high - low) / s <= 5) ?? 40;
  const ticks = Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, i) => Math.ceil(low / step) * step + i * step).filter((t) => t <= high);
  const band = [...curve.map((c) => `${x(c.seconds)},${y(c.smooth + 6 * (1 - c.confidence))}`), ...[...curve].reverse().map((c) => `${x(c.seconds)},${y(c.smooth - 6 * (1 - c.confidence))}`)].join(' ');
  const bpmOf = (i: number): number => (drag?.point === i ? drag.bpm : (written?.[i]?.bpm ?? 0));
  const placeOf = (e: Pointing<SVGSVGElement>): readonly [number, number] => { const r = e.currentTarget.getBoundingClientRect(); return [e.clientX - r.left, e.clientY - r.top]; };
  const down = (e: Pointing<SVGSVGElement>): void => {
    const [px, py] = placeOf(e);
    const point = (written ?? []).findIndex((s) => Math.hypot(x(s.from) - px, y(s.bpm) - py) <= GRIP);
    if (point < 0) return onSeek(Math.max(0, ((px - PAD.left) / Math.max(1, width - PAD.left - PAD.right)) * length));
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ point, bpm: bpmOf(point), fromY: py, fromBpm: bpmOf(point) });
  };
  const pull = (e: Pointing<SVGSVGElement>): void => {
    if (!drag) return;
    const by = (((drag.fromY - placeOf(e)[1]) / span) * (high - low)) * (e.shiftKey ? FINE : 1);
    setDrag({ ...drag, bpm: Math.max(10, drag.fromBpm + by) });
  };
  const release = (): void => {
    if (drag && Math.abs(drag.bpm - drag.fromBpm) > 0.01) onTempo(drag.point, drag.bpm);
    setDrag(null);
  };
  return (
    <div ref={box} className="fm-plot" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} role="img" aria-label={`Tempo over the song, between ${low} and ${high} pulses a minute`} onPointerDown={down} onPointerMove={pull} onPointerUp={release} onPointerCancel={() => setDrag(null)}>
        <text x={14} y={17} className="fm-plot-title">Tempo, pulses a minute{drag ? `: ${drag.bpm.toFixed(2)} (Shift: finer)` : ''}</text>
        {ticks.map((t) => <g key={t}><line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} className="fm-plot-line" /><text x={width - 8} y={y(t) + 4} textAnchor="end" className="fm-plot-tick">{t}</text></g>)}
        <rect x={x(window.from)} width={Math.max(2, x(window.to) - x(window.from))} y={PAD.top - 4} height={span + 8} className="fm-plot-window" />
        {markers.map((m) => <g key={m.id}><line x1={x(m.seconds)} x2={x(m.seconds)} y1={PAD.top - 4} y2={HEIGHT - PAD.bottom} className="fm-plot-line" /><text x={x(m.seconds) + 4} y={HEIGHT - 5} className="fm-plot-tick">{m.name.slice(0, 16)}</text></g>)}
        <polygon points={band} className="fm-plot-band" />
        {curve.map((c, i) => <circle key={c.seconds} cx={x(c.seconds)} cy={y(c.bpm)} r={model.pulses[i]?.pinned ? 3 : 1.6} className={model.pulses[i]?.pinned ? 'fm-plot-pin' : 'fm-plot-dot'} />)}
        {written === null ? <polyline points={curve.map((c) => `${x(c.seconds)},${y(c.smooth)}`).join(' ')} className="fm-plot-curve" /> : (
          <>
            <polyline points={written.flatMap((s, i) => { const moved = bpmOf(i) - s.bpm; return [`${x(s.from)},${y(s.bpm + moved)}`, `${x(s.to)},${y(s.ends + (s.ends === s.bpm ? moved : 0))}`]; }).join(' ')} className="fm-plot-curve" />
            {written.map((s, i) => <rect key={s.from} x={x(s.from) - 4} y={y(bpmOf(i)) - 4} width={8} height={8} className="fm-plot-point" />)}
          </>
        )}
        <line x1={x(position)} x2={x(position)} y1={PAD.top - 4} y2={HEIGHT - PAD.bottom + 4} className="fm-plot-now" />
      </svg>
    </div>
  );
}
