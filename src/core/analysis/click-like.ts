import { median, percentile } from '../dsp';
import { type OnsetCurves, ONSETS_PER_SECOND } from './onsets';
import {
  SKETCH_BANDS,
  SKETCH_PER_SECOND,
  sketchHz,
  sketchPower,
  sketchTotals,
  type SoundSketch,
} from './sketch';

/** What makes a recording sound like a click. */
export interface ClickLikeness {
  readonly hits: number;
  /** Hits a minute, by the median distance. */
  readonly perMinute: number;
  /** Different sounds: accents and the rest. */
  readonly sounds: number;
}

const LEAST_HITS = 16;
/** Fewer hits a second are no pulse, more are a roll. */
const HITS_PER_SECOND = [0.4, 14] as const;
/** A click runs through: from first to last hit it takes this share of the file and leaves out hardly a pulse. */
const LEAST_SPAN = 0.5;
const RUNS_THROUGH = 0.98;
const ALIKE_DB = 4;
const EVEN_DB = 1.5;
const MOST_SOUNDS = 3;
/** Between hits it is this far below them, for this share of the time. */
const QUIET_DB = 36;
const QUIET_SHARE = 0.35;
const STEADY = 0.06;
/** Hits of a kick live below this; a click does not. */
const LOW_HZ = 200;
const LOW_BELOW_DB = 8;

/** Whether it pulses through like a click: the same few short sounds, evenly, on silence. Null when not. */
export function clickLikeness(onsets: OnsetCurves, sketch: SoundSketch): ClickLikeness | null {
  const hits = hitsOf(onsets);
  if (hits.length < LEAST_HITS) return null;
  const [first, last] = [hits[0] as number, hits.at(-1) as number];
  const distances = hits.slice(1).map((t, i) => t - (hits[i] as number));
  const usual = median(distances);
  const rate = 1 / usual;
  if (
    rate < HITS_PER_SECOND[0] ||
    rate > HITS_PER_SECOND[1] ||
    last - first < (LEAST_SPAN * sketch.frames) / SKETCH_PER_SECOND
  )
    return null;
  if (share(distances, (d) => d < 2.2 * usual) < RUNS_THROUGH) return null;
  // Against its neighbours, as the tempo may move; subdivisions beside pulses give simple ratios.
  const steady = distances.slice(1).filter((d, i) => {
    const ratio = d / (distances[i] as number);
    return [1, 2, 3, 1.5].some((r) => Math.abs(ratio / r - 1) < STEADY || Math.abs(ratio * r - 1) < STEADY);
  });
  if (steady.length < 0.95 * (distances.length - 1)) return null;
  const totals = sketchTotals(sketch);
  const loud = percentile(totals, 0.99);
  const inside = [
    ...totals.subarray(Math.floor(first * SKETCH_PER_SECOND), Math.floor(last * SKETCH_PER_SECOND)),
  ];
  if (share(inside, (db) => db < loud - QUIET_DB) < QUIET_SHARE) return null;
  const sounds = soundsOf(sketch, hits);
  return sounds === null ? null : { hits: hits.length, perMinute: 60 / usual, sounds };
}

const share = <T>(list: readonly T[], is: (x: T) => boolean): number =>
  list.length === 0 ? 0 : list.filter(is).length / list.length;

/** Moments of attacks, seconds. */
function hitsOf({ low, mid, high }: OnsetCurves): number[] {
  const sum = low.map((v, i) => v + (mid[i] as number) + (high[i] as number));
  const strong = percentile(
    sum.filter((v) => v > 0),
    0.98,
  );
  const found: number[] = [];
  const apart = 0.05 * ONSETS_PER_SECOND;
  for (let i = 1; i + 1 < sum.length && strong > 0; i++) {
    const [a, b, c] = [sum[i - 1] as number, sum[i] as number, sum[i + 1] as number];
    if (b < 0.3 * strong || b < a || b <= c) continue;
    if (found.length > 0 && i - (found.at(-1) as number) < apart) continue;
    found.push(i + (a - c) / (2 * (a - 2 * b + c) || 1));
  }
  return found.map((i) => i / ONSETS_PER_SECOND);
}

/** How many different sounds the hits are; null when they are too many, too uneven or too low for a click. */
function soundsOf(sketch: SoundSketch, hits: readonly number[]): number | null {
  const sounds: { readonly shape: readonly number[]; readonly levels: number[] }[] = [];
  let strays = 0;
  for (const hit of hits) {
    const at = Math.floor(hit * SKETCH_PER_SECOND);
    // A short sound may lie across frames: their powers together are its own.
    const bands = Array.from(
      { length: SKETCH_BANDS },
      (_, b) =>
        10 * Math.log10([-1, 0, 1, 2].reduce((sum, n) => sum + sketchPower(sketch, at + n, b), 1e-12)),
    );
    const top = Math.max(...bands);
    if (Math.max(...bands.filter((_, b) => sketchHz(b) < LOW_HZ)) > top - LOW_BELOW_DB) return null;
    const shape = bands.map((db) => Math.max(-30, db - top));
    const same = sounds.find((s) => distance(s.shape, shape) < ALIKE_DB);
    if (same) same.levels.push(top);
    else if (sounds.length < MOST_SOUNDS) sounds.push({ shape, levels: [top] });
    else strays++;
  }
  const kinds = sounds.filter((s) => s.levels.length > 1);
  const even = kinds.flatMap(({ levels }) => {
    const m = median(levels);
    return levels.map((db) => Math.abs(db - m));
  });
  // Accents of the same sound are levels apart: at most two of them.
  const twoLevels = (): boolean =>
    kinds.every(({ levels }) => {
      const [a, b] = [percentile(levels, 0.05), percentile(levels, 0.95)];
      return share(levels, (db) => Math.min(Math.abs(db - a), Math.abs(db - b)) < EVEN_DB) > 0.9;
    });
  if (strays > 0.03 * hits.length || (share(even, (d) => d < EVEN_DB) < 0.9 && !twoLevels())) return null;
  return sounds.length;
}

const distance = (a: readonly number[], b: readonly number[]): number =>
  Math.sqrt(a.reduce((s, x, i) => s + (x - (b[i] as number)) ** 2, 0) / a.length);
