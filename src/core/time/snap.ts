import type { MeterMap } from './meter-map';

/** How notes of a grid lie: as long as each other, half as long again, three for two, or in pairs of long and short. */
export type SnapFeel = 'straight' | 'dotted' | 'triplet' | 'swing';

/** Places something can be set to: bar lines, pulses, or notes of a value (8 = eighths) counted from each bar line. */
export type SnapGrid =
  | { readonly to: 'none' }
  | { readonly to: 'bar' }
  | { readonly to: 'pulse' }
  | {
      readonly to: 'notes';
      readonly value: 2 | 4 | 8 | 16 | 32;
      readonly feel: SnapFeel;
      /** Long to short, for swing (2 = as in triplets). */ readonly ratio?: number;
    };

/** Places of a bar, in quarters, with the bar line after it; of notes that do not fill the bar the last is cut short. Throws RangeError for a ratio of swing below 1. */
export function snapPlaces(meters: MeterMap, bar: number, grid: Exclude<SnapGrid, { to: 'none' }>): number[] {
  const [start, end] = [meters.barToQuarters(bar), meters.barToQuarters(bar + 1)];
  if (grid.to === 'bar') return [start, end];
  if (grid.to === 'pulse') return [...meters.pulsesIn(bar), end];
  const note = 4 / grid.value;
  const ratio = grid.ratio ?? 2;
  if (!(ratio >= 1)) throw new RangeError('swing is a long note and a short one: its ratio is at least 1');
  // Pairs make a swung grid; all others are steps.
  const [step, inside] =
    grid.feel === 'swing'
      ? [2 * note, [0, (2 * note * ratio) / (ratio + 1)]]
      : [note * { straight: 1, dotted: 1.5, triplet: 2 / 3 }[grid.feel], [0]];
  const places: number[] = [];
  for (let k = 0; start + k * step < end - 1e-9; k++)
    for (const x of inside) if (start + k * step + x < end - 1e-9) places.push(start + k * step + x);
  return [...places, end];
}

/** The place of a grid nearest to one, in quarters; with none, that itself. */
export function snapQuarters(meters: MeterMap, quarters: number, grid: SnapGrid): number {
  if (grid.to === 'none') return quarters;
  return snapPlaces(meters, meters.toBar(quarters).bar, grid).reduce(
    (best, q) => (Math.abs(q - quarters) < Math.abs(best - quarters) ? q : best),
    Infinity,
  );
}
