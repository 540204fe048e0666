'use client';
import { useRef } from 'react';
import { axis, useElementSize } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import { changeText } from './conform-words';

const HEIGHT = 150;
const PAD = { left: 8, right: 56, top: 26, bottom: 14 };

/** How far every place of the song is stretched: longer above the line, shorter below. */
export function ConformPlot({
  ratios,
  length,
  onSeek,
}: {
  readonly ratios: readonly { readonly seconds: number; readonly ratio: number }[];
  readonly length: number;
  readonly onSeek: (seconds: number) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(box);
  const position = usePlayerState((s) => s.positionSeconds);
  const reach = Math.max(0.01, ...ratios.map((r) => Math.abs(r.ratio - 1)));
  const limit = [0.01, 0.02, 0.03, 0.05, 0.08, 0.1, 0.15, 0.2, 0.3, 0.5].find((l) => l >= reach) ?? 1;
  const x = axis([0, length], [PAD.left, Math.max(PAD.left + 1, width - PAD.right)]);
  const y = axis([-limit, limit], [HEIGHT - PAD.bottom, PAD.top], true);
  const bar = Math.max(1, ((width - PAD.left - PAD.right) / Math.max(1, ratios.length)) * 0.8);
  return (
    <div ref={box} className="fm-plot" style={{ height: HEIGHT }}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Change of length over the song, up to ${changeText(reach)}`}
        onClick={(e) => {
          onSeek(Math.max(0, x.invert(e.clientX - e.currentTarget.getBoundingClientRect().left)));
        }}
      >
        <text x={14} y={17} className="fm-plot-title">
          How far each beat is stretched: longer above the line, shorter below
        </text>
        {[limit, limit / 2, 0, -limit / 2, -limit].map((t) => (
          <g key={t}>
            <line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} className="fm-plot-line" />
            <text x={width - 6} y={y(t) + 4} textAnchor="end" className="fm-plot-tick">
              {t === 0 ? '0 %' : changeText(t)}
            </text>
          </g>
        ))}
        {ratios.map((r) => {
          const change = r.ratio - 1;
          return (
            <rect
              key={r.seconds}
              x={x(r.seconds)}
              width={bar}
              y={Math.min(y(0), y(change))}
              height={Math.max(0.5, Math.abs(y(change) - y(0)))}
              className="fm-plot-change"
            />
          );
        })}
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
