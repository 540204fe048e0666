'use client';
import { useEffect, useRef } from 'react';
import { deviceRatio, freshCanvas } from './draw-waveform';
import { levelHeight, useLevelScale } from './level-scale';
import { type Sounding, sumShape } from './sum-shape';

interface Props {
  readonly sources: readonly Sounding[];
  readonly width: number;
  readonly height: number;
  /** Seconds from the left end to the right. */
  readonly length: number;
  readonly color: string;
}

/** What several tracks come to together, on the shared time axis. */
export function SummedWaveform({ sources, width, height, length, color }: Props) {
  const ref = useRef<HTMLCanvasElement>(null);
  const scale = useLevelScale();
  useEffect(() => {
    const context = freshCanvas(ref.current, width, height);
    if (!context) return;
    const pixel = 1 / deviceRatio();
    const shape = sumShape(sources, Math.round(width / pixel), length);
    context.fillStyle = color;
    shape.forEach((v, x) => {
      if (v === 0) return;
      const half = Math.max(pixel / 2, levelHeight(Math.min(1, v), scale) * (height / 2 - 1));
      context.fillRect(x * pixel, height / 2 - half, pixel, 2 * half);
    });
  }, [sources, width, height, length, color, scale]);
  return <canvas ref={ref} style={{ width, height, display: 'block' }} aria-hidden="true" />;
}
