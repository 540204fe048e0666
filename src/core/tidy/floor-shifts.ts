import { LEVEL_BANDS } from '../analysis';
import { median, percentile } from '../dsp';
import { bandRow, decibelsInPlace, framesOf } from './frame-math';
import { SPREAD_DB } from './noise-figures';

/** A stretch of noise is looked for in windows of a second, every quarter of one. */
const WINDOW_FRAMES = framesOf(1);
const HOP_FRAMES = framesOf(0.24);
/** It is the floor, turned up or down, where all bands moved alike: how far from their median half of them stray at most, and four fifths, dB. */
const [MEDIAN_STRAY_DB, MOST_STRAY_DB] = [1.3, 3.25];
const MOST_SHIFT_DB = 16;
/** It strays over time as noise does, by so many times its usual spread. */
const LIKE_NOISE = [0.75, 1.3] as const;
/** Its halves differ by no more, dB. */
const HALVES_DB = 1.5;

/** Windows that overlap are of one stretch. */
const NEIGHBOURS = WINDOW_FRAMES;

/** Where the floor is heard alone, and by how much it stands above or below what it is on the whole. */
export interface FloorShifts {
  /** Frames in the middle of windows in which nothing but the floor is heard. */
  readonly at: readonly number[];
  /** dB, one for each. */
  readonly shiftDb: readonly number[];
}

/** Finds the windows in which the floor is heard alone: an amp that was switched on, a preamp that was moved, change its level and nothing else. `shares`: power as a share of the floor, band by band. */
export function floorShifts(shares: Float32Array, heard: Uint8Array): FloorShifts {
  const starts = windowStarts(heard);
  const bands = Array.from({ length: LEVEL_BANDS }, (_, b) =>
    bandWindows(bandRow(shares, b), starts, SPREAD_DB[1][b] as number),
  );
  const [at, shiftDb]: [number[], number[]] = [[], []];
  starts.forEach((from, w) => {
    const shift = shiftOf(bands, w);
    if (shift === null) return;
    at.push(from + WINDOW_FRAMES / 2);
    shiftDb.push(shift);
  });
  return { at, shiftDb };
}

/** First frames of the windows that are heard all through. */
function windowStarts(heard: Uint8Array): number[] {
  const out: number[] = [];
  let since = 0;
  for (let n = 0; n < heard.length; n++) {
    if (heard[n] === 0) since = n + 1;
    const from = n + 1 - WINDOW_FRAMES;
    if (from >= since && from % HOP_FRAMES === 0) out.push(from);
  }
  return out;
}

/** Of one band, window by window: level over the floor and of the first half over the second, dB; how it strays, in what noise does. */
interface BandWindows {
  readonly levels: Float64Array;
  readonly halves: Float64Array;
  readonly spreads: Float64Array;
}

function bandWindows(row: Float32Array, starts: readonly number[], spread: number): BandWindows {
  const db = row.slice();
  decibelsInPlace(db);
  const [powers, sums, squares] = [row.length + 1, row.length + 1, row.length + 1].map(
    (n) => new Float64Array(n),
  ) as [Float64Array, Float64Array, Float64Array];
  for (let n = 0; n < row.length; n++) {
    powers[n + 1] = (powers[n] as number) + (row[n] as number);
    sums[n + 1] = (sums[n] as number) + (db[n] as number);
    squares[n + 1] = (squares[n] as number) + (db[n] as number) ** 2;
  }
  const over = (list: Float64Array, from: number, length: number): number =>
    ((list[from + length] as number) - (list[from] as number)) / length;
  const half = WINDOW_FRAMES / 2;
  const each = (value: (from: number) => number): Float64Array => Float64Array.from(starts, value);
  return {
    levels: each((from) => 10 * Math.log10(over(powers, from, WINDOW_FRAMES))),
    halves: each((from) => 10 * Math.log10(over(powers, from, half) / over(powers, from + half, half))),
    spreads: each(
      (from) =>
        Math.sqrt(Math.max(0, over(squares, from, WINDOW_FRAMES) - over(sums, from, WINDOW_FRAMES) ** 2)) /
        spread,
    ),
  };
}

/** By how much the floor is shifted in a window; null where something else is heard. */
function shiftOf(bands: readonly BandWindows[], w: number): number | null {
  const levels = bands.map((b) => b.levels[w] as number);
  const shift = median(levels);
  if (!(Math.abs(shift) <= MOST_SHIFT_DB)) return null;
  const strays = levels.map((l) => Math.abs(l - shift));
  if (median(strays) > MEDIAN_STRAY_DB || percentile(strays, 0.8) > MOST_STRAY_DB) return null;
  const isNoise = median(bands.map((b) => b.spreads[w] as number));
  if (isNoise < LIKE_NOISE[0] || isNoise > LIKE_NOISE[1]) return null;
  return Math.abs(median(bands.map((b) => b.halves[w] as number))) < HALVES_DB ? shift : null;
}

/** The shift frame by frame: between two windows the smaller of both, so that nothing quiet is taken for floor. */
export function shiftTrack({ at, shiftDb }: FloorShifts, frames: number): Float32Array {
  const out = new Float32Array(frames);
  if (at.length === 0) return out;
  let next = 0;
  for (let n = 0; n < frames; n++) {
    while (next < at.length && (at[next] as number) < n) next++;
    const [a, b] = [at[next - 1], at[next]];
    const before = a !== undefined ? (shiftDb[next - 1] as number) : Infinity;
    const after = b !== undefined ? (shiftDb[next] as number) : Infinity;
    // One stretch of noise: its level goes from one to the next.
    out[n] =
      a !== undefined && b !== undefined && b - a <= NEIGHBOURS
        ? before + ((after - before) * (n - a)) / (b - a)
        : Math.min(before, after);
  }
  return out;
}
