import { LEVEL_BANDS } from '../analysis';
import { median, percentile } from '../dsp';
import { bandRow, framesOf } from './frame-math';
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

/** Finds the windows in which the floor is heard alone: an amp that was switched on, a preamp that was moved, change its level and nothing else. `excess`: level over the floor, dB, band by band, unsmoothed. */
export function floorShifts(excess: Float32Array, heard: Uint8Array): FloorShifts {
  const frames = heard.length;
  const [at, shiftDb]: [number[], number[]] = [[], []];
  for (let from = 0; from + WINDOW_FRAMES <= frames; from += HOP_FRAMES) {
    const shift = shiftIn(excess, heard, from);
    if (shift === null) continue;
    at.push(from + WINDOW_FRAMES / 2);
    shiftDb.push(shift);
  }
  return { at, shiftDb };
}

function shiftIn(excess: Float32Array, heard: Uint8Array, from: number): number | null {
  const to = from + WINDOW_FRAMES;
  for (let n = from; n < to; n++) if (heard[n] === 0) return null;
  const [levels, spreads, halves]: number[][] = [[], [], []];
  for (let b = 0; b < LEVEL_BANDS; b++) {
    const row = bandRow(excess, b);
    const [first, second] = [
      powerMean(row, from, from + WINDOW_FRAMES / 2),
      powerMean(row, from + WINDOW_FRAMES / 2, to),
    ];
    (levels as number[]).push(10 * Math.log10((first + second) / 2));
    (halves as number[]).push(10 * Math.log10(first / second));
    (spreads as number[]).push(spreadOf(row, from, to) / (SPREAD_DB[1][b] as number));
  }
  const shift = median(levels as number[]);
  const strays = (levels as number[]).map((l) => Math.abs(l - shift));
  const isNoise = median(spreads as number[]);
  return Math.abs(shift) <= MOST_SHIFT_DB &&
    median(strays) <= MEDIAN_STRAY_DB &&
    percentile(strays, 0.8) <= MOST_STRAY_DB &&
    isNoise >= LIKE_NOISE[0] &&
    isNoise <= LIKE_NOISE[1] &&
    Math.abs(median(halves as number[])) < HALVES_DB
    ? shift
    : null;
}

function powerMean(row: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let n = from; n < to; n++) sum += 10 ** ((row[n] as number) / 10);
  return sum / (to - from);
}

function spreadOf(row: Float32Array, from: number, to: number): number {
  let [sum, squares] = [0, 0];
  for (let n = from; n < to; n++) {
    sum += row[n] as number;
    squares += (row[n] as number) ** 2;
  }
  const count = to - from;
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
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
