import { logSum } from './bar-math';

/** Natural logarithms of how usual a section of so many bars is (common practice, by hand). */
const USUAL: Readonly<Record<number, number>> = {
  8: 0.34,
  4: 0.2,
  16: 0.1,
  2: 0.07,
  12: 0.045,
  6: 0.04,
  3: 0.04,
  9: 0.03,
  7: 0.025,
  5: 0.02,
  10: 0.02,
  14: 0.012,
  20: 0.012,
  24: 0.012,
  1: 0.008,
};
const OTHER = 0.006;
/** Longest section, bars. */
const LONGEST = 128;
/** Weight of the lengths against what is heard, what a section is worth by itself, and what every line gets (own, flat about here). */
const [LENGTH_WEIGHT, LENGTH_WORTH, LINE_WORTH] = [1.2, 1.8, 0.2];

/** What a section between two lines of a song of `count` bars is worth for its length; how long the first and the last are says less, but a single bar is as unusual there. */
export const spanScore = (from: number, to: number, count: number): number =>
  LENGTH_WEIGHT *
  (Math.log(USUAL[to - from] ?? OTHER) + LENGTH_WORTH) *
  (to - from > 1 && (from === 0 || to === count) ? 0.5 : 1);

/** Sections of a song as the likeliest way over its bar lines, and how likely each line begins one. */
export interface BorderPath {
  /** Bars at which a section begins, the first bar always. */
  readonly begins: readonly number[];
  /** For each bar how likely a section begins there, 0–1; 1 for the first. */
  readonly likely: Float64Array;
}

/** `odds`: log-odds of each bar line from 0 on; those with −∞ begin nothing. Sections have usual lengths rather than others. */
export function borderPath(odds: ArrayLike<number>): BorderPath {
  const count = odds.length;
  const line = (at: number): number => (at === 0 || at === count ? 0 : (odds[at] as number) + LINE_WORTH);
  const span = (from: number, to: number): number => spanScore(from, to, count);
  const best = new Float64Array(count + 1).fill(-Infinity);
  const back = new Int32Array(count + 1);
  const forward = new Float64Array(count + 1).fill(-Infinity);
  best[0] = forward[0] = 0;
  for (let to = 1; to <= count; to++) {
    const ways: number[] = [];
    for (let from = Math.max(0, to - LONGEST); from < to; from++) {
      const score = span(from, to) + line(to);
      ways.push((forward[from] as number) + score);
      if ((best[from] as number) + score > (best[to] as number)) {
        best[to] = (best[from] as number) + score;
        back[to] = from;
      }
    }
    forward[to] = logSum(ways);
  }
  const backward = new Float64Array(count + 1).fill(-Infinity);
  backward[count] = 0;
  for (let from = count - 1; from >= 0; from--) {
    const ways: number[] = [];
    for (let to = from + 1; to <= Math.min(count, from + LONGEST); to++)
      ways.push(span(from, to) + line(to) + (backward[to] as number));
    backward[from] = logSum(ways);
  }
  const begins: number[] = [];
  for (let at = back[count] as number; count > 0; at = back[at] as number) {
    begins.unshift(at);
    if (at === 0) break;
  }
  const whole = forward[count] as number;
  return {
    begins,
    likely: Float64Array.from({ length: count }, (_, at) =>
      at === 0 ? 1 : Math.exp((forward[at] as number) + (backward[at] as number) - whole),
    ),
  };
}
