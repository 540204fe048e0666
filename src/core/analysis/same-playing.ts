import { correlationOf, crossSpectrum, Fft, pearson } from '../dsp';
import {
  SKETCH_BANDS,
  SKETCH_PER_SECOND,
  sketchDb,
  sketchPercentile,
  sketchTotals,
  type SoundSketch,
} from './sketch';

/** How one recording follows another. */
export interface Likeness {
  /** Positive when the same things happen later in the second, s; to 20 ms. */
  readonly laterSeconds: number;
  /** Correlation of their levels over time, the middle one of the bands, −1 … 1. */
  readonly correlation: number;
}

/** Bands are looked at down to this far below their loud places. */
const DEPTH_DB = 40;
/** A band this far below the loudest says nothing; fewer bands than these neither. */
const WEAK_DB = 45;
const LEAST_BANDS = 4;
const LEAST_DB = -100;
/** They must meet for this long, and for most of the shorter one: a few hits fit anything. */
const LEAST_FRAMES = 3 * SKETCH_PER_SECOND;
const LEAST_SHARE = 0.6;

/** Where the second recording follows the first best, at most `reachSeconds` apart, and how well; null when one says nothing or they hardly meet. */
export function likeness(a: SoundSketch, b: SoundSketch, reachSeconds: number): Likeness | null {
  const lag = bestLag(a, b, Math.round(reachSeconds * SKETCH_PER_SECOND));
  const correlation = correlationAt(a, b, lag);
  return correlation === null ? null : { laterSeconds: lag / SKETCH_PER_SECOND, correlation };
}

/** Microphones of one room are so far apart at most, frames of a sketch. */
const TOGETHER_FRAMES = 2;

/** How alike the rises of recordings are that begin together, pair by pair: what two microphones of one source have in common. Each is as long as its sketch; 0 where one is silent. */
export function risesAlike(sketches: readonly SoundSketch[]): (a: number, b: number) => number {
  const own = sketches.map((sketch) => {
    const x = rises(sketch);
    return { x, energy: Math.sqrt(x.reduce((s, v) => s + v * v, 0)) };
  });
  return (a, b) => {
    const [p, q] = [own[a], own[b]];
    if (!p || !q || p.energy === 0 || q.energy === 0) return 0;
    let best = 0;
    for (let lag = -TOGETHER_FRAMES; lag <= TOGETHER_FRAMES; lag++) {
      let sum = 0;
      const end = Math.min(p.x.length, q.x.length - lag);
      for (let i = Math.max(0, -lag); i < end; i++) sum += (p.x[i] as number) * (q.x[i + lag] as number);
      best = Math.max(best, sum / (p.energy * q.energy));
    }
    return best;
  };
}

/** Frames by which the rises of `b` come after those of `a`. */
function bestLag(a: SoundSketch, b: SoundSketch, reach: number): number {
  const fft = new Fft(2 ** Math.ceil(Math.log2(Math.max(4, a.frames + b.frames))));
  const { size } = fft;
  const lags = correlationOf(fft, crossSpectrum(fft, rises(a), rises(b)));
  let best = 0;
  const at = (lag: number): number => lags[(lag + size) % size] as number;
  const least = Math.ceil(LEAST_SHARE * Math.min(a.frames, b.frames));
  for (let lag = -Math.min(reach, a.frames - least); lag <= Math.min(reach, b.frames - least); lag++)
    if (at(lag) > at(best)) best = lag;
  return best;
}

/** Rises of the level, their mean taken off. */
function rises(sketch: SoundSketch): Float64Array {
  const totals = sketchTotals(sketch);
  const floor = totals.reduce((m, db) => Math.max(m, db), -Infinity) - DEPTH_DB;
  const out = Float64Array.from(
    totals,
    (db, n) => Math.max(floor, db) - Math.max(floor, totals[n - 1] ?? db),
  ).map((x) => Math.max(0, x));
  const mean = out.reduce((s, x) => s + x, 0) / Math.max(1, out.length);
  return out.map((x) => x - mean);
}

function correlationAt(a: SoundSketch, b: SoundSketch, lag: number): number | null {
  const from = Math.max(0, -lag);
  const frames = Math.min(a.frames, b.frames - lag) - from;
  if (frames < LEAST_FRAMES) return null;
  const bands = Array.from({ length: SKETCH_BANDS }, (_, band) => ({
    band,
    loudA: sketchPercentile(a, band, 0.95),
    loudB: sketchPercentile(b, band, 0.95),
  }));
  const [topA, topB] = [Math.max(...bands.map((x) => x.loudA)), Math.max(...bands.map((x) => x.loudB))];
  const found = bands
    .filter(
      (x) => Math.min(x.loudA, x.loudB) > LEAST_DB && x.loudA > topA - WEAK_DB && x.loudB > topB - WEAK_DB,
    )
    .map(({ band, loudA, loudB }) => {
      const levels = (sketch: SoundSketch, start: number, loud: number): Float32Array =>
        Float32Array.from({ length: frames }, (_, n) =>
          Math.max(loud - DEPTH_DB, sketchDb(sketch, start + n, band)),
        );
      return pearson(levels(a, from, loudA), levels(b, from + lag, loudB));
    })
    .sort((p, q) => p - q);
  return found.length < LEAST_BANDS ? null : (found[Math.floor(found.length / 2)] as number);
}
