import { SKETCH_BANDS, type SoundSketch, sketchPower, sketchTotals } from '../analysis';

/** Only what is louder than this below the loudest counts, of time and of bands, dB. */
const [DEPTH_DB, BAND_DEPTH_DB] = [30, 40];

/** How loud each band is where a recording sounds, dB, mean 0 over those that count; null = silent. */
export type Timbre = readonly number[] | null;

/** The long-term spectrum of a recording, by the bands of its sketch. */
export function timbreOf(sketch: SoundSketch): Timbre {
  const totals = sketchTotals(sketch);
  const least = totals.reduce((m, db) => Math.max(m, db), -Infinity) - DEPTH_DB;
  const sums = new Float64Array(SKETCH_BANDS);
  totals.forEach((db, n) => {
    if (db > least && db > -66)
      for (let b = 0; b < SKETCH_BANDS; b++) sums[b] = (sums[b] as number) + sketchPower(sketch, n, b);
  });
  const top = sums.reduce((m, p) => Math.max(m, p), 0);
  if (top <= 0) return null;
  const levels = Array.from(sums, (p) => Math.max(-BAND_DEPTH_DB, 10 * Math.log10(Math.max(p, 1e-12) / top)));
  const mean = levels.reduce((s, db) => s + db, 0) / SKETCH_BANDS;
  return levels.map((db) => db - mean);
}

/** How far two timbres are apart: mean of the differences of their bands, dB; Infinity where one is silent. */
export const timbreDistance = (a: Timbre, b: Timbre): number =>
  a && b ? a.reduce((s, db, k) => s + Math.abs(db - (b[k] as number)), 0) / SKETCH_BANDS : Infinity;
