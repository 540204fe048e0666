import { pearson, percentile } from '../dsp';
import { likeness } from './same-playing';
import { SKETCH_BANDS, SKETCH_PER_SECOND, sketchOf, sketchPower, type SoundSketch } from './sketch';

/** A recording for the search of a mix, at its place in the song. */
export interface MixPart {
  readonly sketch: SoundSketch;
  readonly startSeconds: number;
  /** Parts of one group count as one voice: microphones of a kit, voices of a choir. */
  readonly group: string;
}

/** How far a recording is the others together, each at its own level. */
export interface MixFit {
  /** Difference between it and the sum, dB, the middle one over time and bands. */
  readonly errorDb: number;
  /** How its level follows that of the sum, −1 … 1. */
  readonly correlation: number;
  /** Groups that each carry at least a twentieth of it. */
  readonly groups: number;
  /** Share of it that the strongest group carries. */
  readonly strongest: number;
  /** Where the song begins in it, s after its own place. */
  readonly laterSeconds: number;
}

const CELLS_PER_SECOND = 5;
const FRAMES = SKETCH_PER_SECOND / CELLS_PER_SECOND;
const REACH_SECONDS = 20;
const LEAST_CELLS = 20;
const CARRIES = 0.05;
const SWEEPS = 60;
/** Quieter than this below its loud places nothing is compared. */
const DEPTH_DB = 35;

/**
 * Fits a recording as a sum of the others' powers by non-negative least squares on relative error, in all bands together.
 * Null when there are fewer than three others or nothing to compare. Own method; coordinate descent for the least squares (Franc, Hlaváč & Navara 2005, from memory).
 */
export function mixFit(candidate: MixPart, others: readonly MixPart[]): MixFit | null {
  const parts = others.filter((o) => o !== candidate);
  if (parts.length < 3) return null;
  const from = Math.min(candidate.startSeconds, ...parts.map((p) => p.startSeconds));
  const frames = Math.max(
    ...[candidate, ...parts].map(
      (p) => Math.round((p.startSeconds - from) * SKETCH_PER_SECOND) + p.sketch.frames,
    ),
  );
  const cells = Math.ceil(frames / FRAMES);
  const columns = parts.map((p) => cellsOf(p.sketch, p.startSeconds - from, cells));
  const later = shiftOf(candidate, parts, from, frames);
  const target = cellsOf(candidate.sketch, candidate.startSeconds - from - later, cells);
  const kept = loudCells(target);
  if (kept.length < LEAST_CELLS * SKETCH_BANDS) return null;
  const gains = fit(target, columns, kept);
  const model = new Float64Array(target.length);
  columns.forEach((c, i) => {
    const g = gains[i] as number;
    if (g > 0) for (const k of kept) model[k] = (model[k] as number) + g * (c[k] as number);
  });
  const dbOf = (power: number): number => 10 * Math.log10(power + 1e-12);
  const differences = kept.map((k) => Math.abs(dbOf(model[k] as number) - dbOf(target[k] as number)));
  const carried = new Map<string, number>();
  parts.forEach((p, i) => {
    let sum = 0;
    for (const k of kept)
      sum += Math.min(
        1,
        ((gains[i] as number) * ((columns[i] as Float64Array)[k] as number)) / (target[k] as number),
      );
    carried.set(p.group, (carried.get(p.group) ?? 0) + sum / kept.length);
  });
  return {
    errorDb: percentile(differences, 0.5),
    correlation: pearson(
      kept.map((k) => dbOf(model[k] as number)),
      kept.map((k) => dbOf(target[k] as number)),
    ),
    groups: [...carried.values()].filter((share) => share >= CARRIES).length,
    strongest: Math.max(0, ...carried.values()),
    laterSeconds: later,
  };
}

/** Powers by cell and band, shifted to a place. */
function cellsOf(sketch: SoundSketch, seconds: number, cells: number): Float64Array {
  const out = new Float64Array(cells * SKETCH_BANDS);
  const shift = Math.round(seconds * SKETCH_PER_SECOND);
  for (let n = 0; n < sketch.frames; n++) {
    const cell = Math.floor((n + shift) / FRAMES);
    if (cell < 0 || cell >= cells) continue;
    for (let b = 0; b < SKETCH_BANDS; b++)
      out[cell * SKETCH_BANDS + b] =
        (out[cell * SKETCH_BANDS + b] as number) + sketchPower(sketch, n, b) / FRAMES;
  }
  return out;
}

/** A mix need not begin where its tracks do: by how much it comes later. */
function shiftOf(candidate: MixPart, parts: readonly MixPart[], from: number, frames: number): number {
  const powersOf = (list: readonly MixPart[]): Float64Array => {
    const sum = new Float64Array(frames * SKETCH_BANDS);
    for (const { sketch, startSeconds } of list) {
      const shift = Math.round((startSeconds - from) * SKETCH_PER_SECOND);
      for (let n = 0; n < sketch.frames; n++)
        for (let b = 0; b < SKETCH_BANDS; b++)
          sum[(n + shift) * SKETCH_BANDS + b] =
            (sum[(n + shift) * SKETCH_BANDS + b] as number) + sketchPower(sketch, n, b);
    }
    return sum;
  };
  return (
    likeness(sketchOf(powersOf(parts)), sketchOf(powersOf([candidate])), REACH_SECONDS)?.laterSeconds ?? 0
  );
}

/** Cells and bands that are heard. */
function loudCells(target: Float64Array): number[] {
  const kept: number[] = [];
  for (let b = 0; b < SKETCH_BANDS; b++) {
    const band = target.filter((_, k) => k % SKETCH_BANDS === b);
    const least = percentile(band, 0.95) * 10 ** (-DEPTH_DB / 10);
    if (least > 1e-11)
      band.forEach((x, cell) => {
        if (x > least) kept.push(cell * SKETCH_BANDS + b);
      });
  }
  return kept;
}

/** Non-negative gains of the columns on the target, each cell weighed by its own size. */
function fit(target: Float64Array, columns: readonly Float64Array[], kept: readonly number[]): number[] {
  const scaled = columns.map((c) => Float64Array.from(kept, (k) => (c[k] as number) / (target[k] as number)));
  const gram = scaled.map((a) => scaled.map((b) => dot(a, b)));
  const right = scaled.map((a) => a.reduce((s, x) => s + x, 0));
  const gains = columns.map(() => 0);
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let i = 0; i < gains.length; i++) {
      const row = gram[i] as number[];
      const own = row[i] as number;
      if (own <= 0) continue;
      let rest = right[i] as number;
      for (let j = 0; j < gains.length; j++) if (j !== i) rest -= (row[j] as number) * (gains[j] as number);
      gains[i] = Math.max(0, rest / own);
    }
  return gains;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] as number) * (b[i] as number);
  return sum;
}
