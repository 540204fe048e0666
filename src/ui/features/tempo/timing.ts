import { deviationsOf, type Timing, timingOf } from '@/core/tempo';
import type { SongMap } from '@/core/time';

/** Of the chart of hits, CSS px. */
export const CHART_HEIGHT = 150;

/** A track against the grid. */
export interface TimingRow extends Timing {
  readonly id: string;
  readonly name: string;
  /** s; positive = late. */ readonly deviations: readonly number[];
}

/** Fewer hits say nothing of a player. */
const FEWEST_HITS = 4;

/** How each track stands to the grid, the most exact first. */
export function timingRows(
  map: SongMap,
  tracks: readonly { readonly id: string; readonly name: string; readonly seconds: readonly number[] }[],
  parts: number,
): TimingRow[] {
  return tracks
    .flatMap(({ id, name, seconds }): TimingRow[] => {
      const deviations = deviationsOf(map, seconds, parts);
      const timing = timingOf(deviations);
      return timing && timing.hits >= FEWEST_HITS
        ? [{ id, name, ...timing, deviations: deviations.map((d) => d.late) }]
        : [];
    })
    .sort((a, b) => a.spread - b.spread);
}

const BIN_MS = 4;
const REACH_MS = 48;

/** How many deviations (s) lie around each step of 4 ms, from −48 to +48; what lies beyond says nothing about the beat. */
export function histogramOf(deviations: readonly number[]): { readonly ms: number; readonly hits: number }[] {
  const bins = Array.from({ length: (2 * REACH_MS) / BIN_MS + 1 }, (_, i) => ({
    ms: i * BIN_MS - REACH_MS,
    hits: 0,
  }));
  for (const d of deviations) {
    const bin = bins[Math.round((1000 * d + REACH_MS) / BIN_MS)];
    if (bin) bin.hits++;
  }
  return bins;
}
