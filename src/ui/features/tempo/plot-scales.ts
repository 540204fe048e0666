import { useMemo } from 'react';
import { type Meter, pulseQuarters } from '@/core/time';
import { axis, type WaveWindow, widened } from '@/ui/kit';
import { tempoCurve, type TempoModel } from './tempo-model';

export const PLOT_HEIGHT = 190;
/** Room around what is drawn, px. */
export const PAD = { left: 8, right: 44, top: 26, bottom: 18 };
export const PLOT_SPAN = PLOT_HEIGHT - PAD.top - PAD.bottom;
/** More points than these are drawn as the line they make. */
const MOST_POINTS = 120;

/** A stretch of the map between two points: seconds, and pulses a minute at both ends. */
export interface WrittenStretch {
  readonly from: number;
  readonly to: number;
  readonly bpm: number;
  readonly ends: number;
}

/** What the plot draws: each pulse as measured, the map's stretches (null for too many), the tempi from the lowest to the highest. */
export interface PlotData {
  readonly curve: ReturnType<typeof tempoCurve>;
  readonly written: readonly WrittenStretch[] | null;
  readonly tempi: readonly [number, number];
}

const tempiOf = (sorted: readonly number[]): readonly [number, number] => {
  const at = (share: number): number => sorted[Math.floor(sorted.length * share)] ?? 0;
  return widened([at(0.02) - 3, at(0.98) + 3], 5);
};

export function usePlotData(model: TempoModel): PlotData {
  return useMemo(() => {
    const { tempo } = model.map;
    const perPulse = pulseQuarters(model.reading.meters[0] as Meter);
    const curve = tempoCurve(model);
    const written =
      tempo.points.length > MOST_POINTS
        ? null
        : tempo.points.slice(0, -1).map((p, i) => ({
            from: p.seconds,
            to: (tempo.points[i + 1] as { seconds: number }).seconds,
            bpm: tempo.tempoAt(p.quarters) / perPulse,
            ends: (tempo.tempoAt(p.quarters) / perPulse) * (p.ramp ?? 1),
          }));
    const all = [...curve.map((c) => c.smooth), ...(written ?? []).flatMap((s) => [s.bpm, s.ends])];
    return { curve, written, tempi: tempiOf(all.sort((a, b) => a - b)) };
  }, [model]);
}

/** Seconds and tempi to CSS px within an element of that width, its pads not counted. */
export interface PlotScales {
  readonly x: ReturnType<typeof axis>;
  readonly y: ReturnType<typeof axis>;
}

export const plotScales = (
  window: WaveWindow,
  tempi: readonly [number, number],
  width: number,
): PlotScales => ({
  x: axis([window.from, window.to], [PAD.left, PAD.left + Math.max(1, width)]),
  y: axis(tempi, [PAD.top + PLOT_SPAN, PAD.top], true),
});
