/** Frames a second of the path search. */
export const PATH_PER_SECOND = 100;

/** Share of a period that counts as "on the beat" (1/16), as the source. */
const BEAT_SHARE = 16;
/** Resistance to tempo change from one beat to the next (source: 100; lower follows free players better). */
const INERTIA = 60;

/**
 * The most likely sequence of beats under a period that may change at each beat: Viterbi over (period, phase).
 * `activation` 0–1 at {@link PATH_PER_SECOND}; periods in frames, inclusive. Returns beat frames and the path's mean log likelihood a frame.
 * Source: S. Böck, F. Krebs, G. Widmer, ISMIR 2015, state space and transitions (from memory). Cost: frames × Σ periods.
 */
export function findBeatPath(activation: Float32Array, shortest: number, longest: number): { readonly frames: number[]; readonly score: number } {
  const periods = Array.from({ length: longest - shortest + 1 }, (_, i) => shortest + i);
  const first: number[] = [];
  let states = 0;
  for (const p of periods) {
    first.push(states);
    states += p;
  }
  const frames = activation.length;
  // Only arrivals at phase 0 choose a predecessor; all other states just advance.
  const arrivals = Array.from({ length: periods.length }, () => new Int16Array(frames));
  let now = new Float64Array(states);
  let next = new Float64Array(states);
  const change = periods.map((to) => periods.map((from) => -INERTIA * Math.abs(to / from - 1)));
  const onFrames = periods.map((p) => Math.max(1, Math.round(p / BEAT_SHARE)));
  const reach = 12; // periods farther away are never worth the change
  const nearest = periods.map((_, k) => Math.max(0, k - reach));
  const farthest = periods.map((_, k) => Math.min(periods.length - 1, k + reach));
  const likely = Float64Array.from(activation, (x) => Math.min(0.97, Math.max(0.003, x)));
  const onBeat = likely.map((x) => Math.log(x));
  const offBeat = likely.map((x) => Math.log((1 - x) / (BEAT_SHARE - 1)));
  for (let f = 0; f < frames; f++) {
    const on = onBeat[f] as number;
    const off = offBeat[f] as number;
    for (let k = 0; k < periods.length; k++) {
      const period = periods[k] as number;
      const start = first[k] as number;
      const lastOn = onFrames[k] as number;
      const costs = change[k] as number[];
      let best = -Infinity;
      let from = k;
      if (f > 0)
        for (let j = nearest[k] as number; j <= (farthest[k] as number); j++) {
          const value = (now[(first[j] as number) + (periods[j] as number) - 1] as number) + (costs[j] as number);
          if (value > best) {
            best = value;
            from = j;
          }
        }
      else best = 0;
      (arrivals[k] as Int16Array)[f] = from;
      next[start] = best + on;
      for (let s = 1; s < period; s++) next[start + s] = (f > 0 ? (now[start + s - 1] as number) : 0) + (s < lastOn ? on : off);
    }
    [now, next] = [next, now];
  }
  return trace(now, first, periods, arrivals, frames);
}

function trace(last: Float64Array, first: readonly number[], periods: readonly number[], arrivals: readonly Int16Array[], frames: number): { frames: number[]; score: number } {
  let best = 0;
  for (let s = 1; s < last.length; s++) if ((last[s] as number) > (last[best] as number)) best = s;
  let k = first.findIndex((f, i) => best >= f && best < f + (periods[i] as number));
  let phase = best - (first[k] as number);
  const beats: number[] = [];
  for (let f = frames - 1; f >= 0; ) {
    const at = f - phase;
    if (at < 0) break;
    beats.push(at);
    k = (arrivals[k] as Int16Array)[at] as number;
    phase = (periods[k] as number) - 1;
    f = at - 1;
  }
  return { frames: beats.reverse(), score: (last[best] as number) / Math.max(1, frames) };
}
