'use client';
import { useEffect, useRef } from 'react';
import { drawSoon } from './draw-soon';
import { deviceRatio, drawWaveform, freshCanvas, type PeakView } from './draw-waveform';
import { useLevelScale } from './level-scale';
import { useTheme } from './theme-switch';

/** A waveform in a box. */
export interface WaveformProps {
  readonly peaks: PeakView | null;
  readonly width: number;
  readonly height: number;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly color: string;
}

/** Draws at device resolution; nothing until the peaks are there. */
export function Waveform({ peaks, width, height, fromSeconds, toSeconds, color }: WaveformProps) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { theme } = useTheme();
  const scale = useLevelScale();
  const isBlank = useRef(true);
  useEffect(() => {
    if (!isBlank.current) freshCanvas(ref.current, width, height);
    isBlank.current = true;
    if (!peaks) return undefined;
    return drawSoon(() => {
      const context = freshCanvas(ref.current, width, height);
      isBlank.current = false;
      if (context)
        drawWaveform(
          context,
          peaks,
          { x: 0, y: 0, width, height },
          { fromSeconds, toSeconds },
          { color, scale, clip: cssColor('--fm-clay'), pixel: 1 / deviceRatio() },
        );
    });
  }, [peaks, width, height, fromSeconds, toSeconds, color, theme, scale]);
  return <canvas ref={ref} style={{ width, height, display: 'block' }} aria-hidden="true" />;
}

const colors = new Map<string, string>();

/** A colour of the theme in force. Working out the page's style for each of many waveforms would cost more than drawing them. */
export function cssColor(name: string): string {
  const key = `${document.documentElement.dataset.bsTheme ?? ''} ${name}`;
  const known = colors.get(key);
  if (known !== undefined) return known;
  const color = getComputedStyle(document.documentElement).getPropertyValue(name);
  colors.set(key, color);
  return color;
}
