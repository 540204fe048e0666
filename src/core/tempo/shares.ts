import { type Stream, TOGETHER_SECONDS } from './streams';

/** How near a pulse a hit counts as one on it, s, and at most which part of the way to the next. */
const NEAR_SECONDS = 0.07;
const NEAR_SHARE = 0.2;

/**
 * What each track has in what was heard at the pulses, 0–1, all together 1 (all 0 where nothing was heard). What several strike together
 * in one role counts once and is shared by their strengths. `weigh` = what a hit of a stream counts for; `tracks` = how many there are.
 */
export function sharesOf(
  beats: readonly number[],
  streams: readonly Stream[],
  tracks: number,
  weigh: (stream: Stream, strength: number) => number,
): number[] {
  const out = new Array<number>(tracks).fill(0);
  for (const stream of streams) {
    const { seconds, strength, own } = stream;
    let [pulse, from] = [0, 0];
    seconds.forEach((t, i) => {
      while (pulse + 1 < beats.length && (beats[pulse + 1] as number) - t <= t - (beats[pulse] as number))
        pulse++;
      const at = beats[pulse] as number;
      const gap = Math.abs((beats[pulse + 1] ?? (beats[pulse - 1] as number)) - at);
      if (Math.abs(t - at) > Math.min(NEAR_SECONDS, NEAR_SHARE * gap)) return;
      while (from < own.length && (own[from] as { t: number }).t < t - TOGETHER_SECONDS) from++;
      let sum = 0;
      let to = from;
      for (; to < own.length && (own[to] as { t: number }).t <= t + TOGETHER_SECONDS; to++)
        sum += (own[to] as { s: number }).s;
      const value = sum > 0 ? weigh(stream, strength[i] as number) / sum : 0;
      for (let k = from; k < to; k++) {
        const { track, s } = own[k] as { track: number; s: number };
        out[track] = (out[track] as number) + value * s;
      }
    });
  }
  const total = out.reduce((a, x) => a + x, 0);
  return total > 0 ? out.map((x) => x / total) : out;
}
