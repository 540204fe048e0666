'use client';
import { useMemo, useRef } from 'react';
import { useElementSize } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import { tempoCurve, type TempoModel } from './tempo-model';

const HEIGHT = 190;
const PAD = { left: 8, right: 44, top: 26, bottom: 18 };

/** Tempo over the whole song: each pulse a dot, the mean over a bar a line, doubt as a band; the stretch in view below is framed. */
export function TempoPlot({ model, length, window, onSeek }: { readonly model: TempoModel; readonly length: number; readonly window: { readonly from: number; readonly to: number }; readonly onSeek: (seconds: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(box);
  const position = usePlayerState((s) => s.positionSeconds);
  const curve = useMemo(() => tempoCurve(model), [model]);
  if (curve.length === 0) return <div ref={box} />;
  const sorted = curve.map((c) => c.smooth).sort((a, b) => a - b);
  const low = Math.floor(((sorted[Math.floor(sorted.length * 0.02)] as number) - 3) / 2) * 2;
  const high = Math.ceil(((sorted[Math.floor(sorted.length * 0.98)] as number) + 3) / 2) * 2;
  const x = (s: number): number => PAD.left + (s / length) * Math.max(1, width - PAD.left - PAD.right);
  const y = (bpm: number): number => PAD.top + (1 - (Math.max(low, Math.min(high, bpm)) - low) / (high - low)) * (HEIGHT - PAD.top - PAD.bottom);
  const step = [1, 2, 4, 5, 10, 20].find((s) => (high - low) / s <= 5) ?? 40;
  const ticks = Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, i) => Math.ceil(low / step) * step + i * step).filter((t) => t <= high);
  const band = [...curve.map((c) => `${x(c.seconds)},${y(c.smooth + 6 * (1 - c.confidence))}`), ...[...curve].reverse().map((c) => `${x(c.seconds)},${y(c.smooth - 6 * (1 - c.confidence))}`)].join(' ');
  return (
    <div ref={box} className="fm-plot" style={{ height: HEIGHT }}>
      <svg width={width} height={HEIGHT} role="img" aria-label={`Tempo over the song, between ${low} and ${high} pulses a minute`} onClick={(e) => { const r = e.currentTarget.getBoundingClientRect(); onSeek(Math.max(0, ((e.clientX - r.left - PAD.left) / (r.width - PAD.left - PAD.right)) * length)); }}>
        <text x={14} y={17} className="fm-plot-title">Tempo, pulses a minute</text>
        {ticks.map((t) => <g key={t}><line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} className="fm-plot-line" /><text x={width - 8} y={y(t) + 4} textAnchor="end" className="fm-plot-tick">{t}</text></g>)}
        <rect x={x(window.from)} width={Math.max(2, x(window.to) - x(window.from))} y={PAD.top - 4} height={HEIGHT - PAD.top - PAD.bottom + 8} className="fm-plot-window" />
        <polygon points={band} className="fm-plot-band" />
        {curve.map((c) => <circle key={c.seconds} cx={x(c.seconds)} cy={y(c.bpm)} r={1.6} className="fm-plot-dot" />)}
        <polyline points={curve.map((c) => `${x(c.seconds)},${y(c.smooth)}`).join(' ')} className="fm-plot-curve" />
        <line x1={x(position)} x2={x(position)} y1={PAD.top - 4} y2={HEIGHT - PAD.bottom + 4} className="fm-plot-now" />
      </svg>
    </div>
  );
}
