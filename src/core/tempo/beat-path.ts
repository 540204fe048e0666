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
export function findBeatPath(
  activation: Float32Array,
  shortest: number,
  longest: number,
): { readonly frames: number[]; readonly score: number } {
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
  const change = Float64Array.from(
    { length: count * count },
    (_, i) => -INERTIA * abs((shortest + floor(i / count)) / (shortest + (i % count)) - 1),
  );
  /** How long a beat is on. */
  const onFrames = Int32Array.from({ length: count }, (_, j) => max(1, round((shortest + j) / BEAT_SHARE)));
  const reaches = Int32Array.from({ length: count }, (_, k) => max(2, round(REACH * (shortest + k))));
  // What a beat with the period after it is worth, laid down where that period ends; only the next `longest` frames are ever ahead.
  // All but the running sum up to there is known when the beat is: -onSum at the beat, + (onSum − offSum) where it stops being on.
  const ring = longest + 1;
  const ahead = new Float64Array(ring * count).fill(-Infinity);
  const from = new Int16Array(frames * count);
  let best = -Infinity;
  let last = { frame: 0, k: 0 };
  for (let f = 0; f < frames; f++) {
    const sum = offSum[f] as number;
    const here = (f % ring) * count;
    for (let k = 0; k < count; k++) {
      // To stay costs nothing: only what is worth more to begin with can be better.
      let most = ahead[here + k] as number;
      let came = most > -Infinity ? k : -1;
      const reach = reaches[k] as number;
      const row = k * count;
      const to = min(count - 1, k + reach);
      for (let j = max(0, k - reach); j <= to; j++) {
        const worth = ahead[here + j] as number;
        if (worth <= most) continue;
        const v = worth + (change[row + j] as number);
        if (v > most) {
          most = v;
          came = j;
        }
      }
      let value = most + sum;
      // A first beat may lie anywhere in the first period.
      if (f < shortest + k && !(value > sum)) {
        value = sum;
        came = -1;
      }
      from[f * count + k] = came;
      const on = min(frames, f + (onFrames[k] as number));
      const laid = value - (onSum[f] as number) + (onSum[on] as number) - (offSum[on] as number);
      // The last period runs to the end.
      if (f + shortest + k >= frames) {
        const end = laid + (offSum[frames] as number);
        if (end > best) {
          best = end;
          last = { frame: f, k };
        }
      } else ahead[((f + shortest + k) % ring) * count + k] = laid;
    }
  }
  const beats: number[] = [];
  for (let { frame, k } = last; ;) {
    beats.push(frame);
    const j = from[frame * count + k] as number;
    if (j < 0 || frame === 0) break;
    frame -= shortest + j;
    k = j;
  }
  return { frames: beats.reverse(), score: best / max(1, frames) };
}
