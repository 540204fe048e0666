
const { abs, floor, log, max, min, round } = Math;
/** Frames a second of the path search. */
export const PATH_PER_SECOND = 100;

/** Share of a period that counts as "on the beat" (1/16), as the source. */
const BEAT_SHARE = 16;
/** Resistance to tempo change from one beat to the next (source: 100; lower follows free players better). */
const INERTIA = 60;
/** A larger change of period in one beat, share of it, is never worth its cost. */
const REACH = 0.07;

/**
 * The most likely sequence of beats under a period that may change at each beat.
 * `activation` 0–1 at {@link PATH_PER_SECOND}; periods in frames, inclusive. Returns beat frames and the path's mean log likelihood a frame.
 * Source: state space, transitions and observation of S. Böck, F. Krebs, G. Widmer, ISMIR 2015 (from memory); since only beats
 * choose, it is solved from beat to beat with running sums in between. Cost: frames × periods × periods within {@link REACH}.
 */
export function findBeatPath(activation: Float32Array, shortest: number, longest: number): { readonly frames: number[]; readonly score: number } {
  const count = longest - shortest + 1;
  const frames = activation.length;
  const onSum = new Float64Array(frames + 1);
  const offSum = new Float64Array(frames + 1);
  for (let f = 0; f < frames; f++) {
    const x = min(0.97, max(0.003, activation[f] as number));
    onSum[f + 1] = (onSum[f] as number) + log(x);
    offSum[f + 1] = (offSum[f] as number) + log((1 - x) / (BEAT_SHARE - 1));
  }
  /** Cost of going from period j to k, at k × count + j. */
  const change = Float64Array.from({ length: count * count }, (_, i) => -INERTIA * abs((shortest + floor(i / count)) / (shortest + (i % count)) - 1));
  /** From a beat at `f` to just before the next, `period` later, or to the end. */
  const onFrames = Int32Array.from({ length: count }, (_, j) => max(1, round((shortest + j) / BEAT_SHARE)));
  const reaches = Int32Array.from({ length: count }, (_, k) => max(2, round(REACH * (shortest + k))));
  const stretch = (f: number, j: number): number => {
    const on = min(frames, f + (onFrames[j] as number));
    return (onSum[on] as number) - (onSum[f] as number) + (offSum[min(frames, f + shortest + j)] as number) - (offSum[on] as number);
  };
  // Best value of a beat at a frame with the period that follows it; only the last `longest` frames are needed again.
  const ring = longest + 1;
  const values = new Float64Array(ring * count).fill(-Infinity);
  const from = new Int16Array(frames * count);
  const arriving = new Float64Array(count);
  let best = -Infinity;
  let last = { frame: 0, k: 0 };
  for (let f = 0; f < frames; f++) {
    for (let j = 0; j < count; j++) {
      const start = f - shortest - j;
      arriving[j] = start < 0 ? -Infinity : (values[(start % ring) * count + j] as number) + stretch(start, j);
    }
    const here = (f % ring) * count;
    for (let k = 0; k < count; k++) {
      // A first beat may lie anywhere in the first period.
      let value = f < shortest + k ? (offSum[f] as number) : -Infinity;
      let came = -1;
      const reach = reaches[k] as number;
      const row = k * count;
      const to = min(count - 1, k + reach);
      for (let j = max(0, k - reach); j <= to; j++) {
        const v = (arriving[j] as number) + (change[row + j] as number);
        if (v > value) {
          value = v;
          came = j;
        }
      }
      values[here + k] = value;
      from[f * count + k] = came;
      if (f + shortest + k >= frames) {
        const end = value + stretch(f, k);
        if (end > best) {
          best = end;
          last = { frame: f, k };
        }
      }
    }
  }
  const beats: number[] = [];
  for (let { frame, k } = last; ; ) {
    beats.push(frame);
    const j = from[frame * count + k] as number;
    if (j < 0 || frame === 0) break;
    frame -= shortest + j;
    k = j;
  }
  return { frames: beats.reverse(), score: best / max(1, frames) };
}
