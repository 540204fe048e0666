import { percentile } from '../dsp';
import type { BarFeatures } from './bar-features';
import { clip, mean } from './bar-math';
import { type BarLikeness, LIKENESS_KINDS, type Likenesses } from './likeness';

/** What speaks for a section to begin at a bar line: by name, one value a bar line; index = the bar that begins there. */
export type Cues = ReadonlyMap<string, Float32Array>;

/** Half-widths of the checkerboards, bars. */
const WIDTHS = [2, 4, 8] as const;
/** Bars that must repeat together. */
const REPEAT_BARS = 4;
/** A cue's loud end is where this share of its values lies below; less than the floor is nothing. */
const [LOUD_SHARE, CUE_FLOOR, MOST] = [0.97, 0.05, 1.5];

/** All cues of a song, each by its own loud end, and each again against its neighbours. */
export function borderCues(bars: BarFeatures, like: Likenesses): Cues {
  const { count } = bars;
  const all = new Map<string, Float32Array>();
  for (const kind of LIKENESS_KINDS)
    for (const width of WIDTHS) all.set(`${kind}${width}`, novelty(like[kind], count, width));
  const together = meanOf(LIKENESS_KINDS.map((k) => like[k]));
  for (const width of [4, 8]) all.set(`all${width}`, novelty(together, count, width));
  const played = meanOf([like.harmony, like.bass, like.melody]);
  all.set('repeats-elsewhere', lagNovelty(played, count));
  for (const [name, s] of [
    ['all', together],
    ['played', played],
    ['melody', like.melody],
    ['rhythm', like.rhythm],
  ] as const) {
    all.set(`repeat-starts-${name}`, repeatEdge(s, count, 1));
    all.set(`repeat-ends-${name}`, repeatEdge(s, count, -1));
  }
  for (const [name, values] of playingCues(bars, together)) all.set(name, values);
  const out = new Map<string, Float32Array>();
  for (const [name, values] of all) {
    const scaled = byLoudEnd(values);
    out.set(name, scaled);
    out.set(`${name}'`, overNeighbours(scaled));
  }
  return out;
}

function meanOf(all: readonly BarLikeness[]): BarLikeness {
  const out = new Float32Array(all[0]?.length ?? 0);
  for (const one of all)
    for (let k = 0; k < out.length; k++) out[k] = (out[k] as number) + (one[k] as number) / all.length;
  return out;
}

/**
 * How much the bars on either side of a line are each other's like, and not those of the other side.
 * Source: checkerboard novelty, Foote 2000, from memory; cut off at the ends of the song.
 */
export function novelty(s: BarLikeness, count: number, width: number): Float32Array {
  return Float32Array.from({ length: count }, (_, at) => {
    if (at === 0) return 0;
    const [before, after] = [Math.min(width, at), Math.min(width, count - at)];
    const block = (a: number, n: number, b: number, m: number): number => {
      let sum = 0;
      for (let i = a; i < a + n; i++) for (let j = b; j < b + m; j++) sum += s[i * count + j] as number;
      return sum / (n * m);
    };
    return (
      (block(at - before, before, at - before, before) + block(at, after, at, after)) / 2 -
      block(at - before, before, at, after)
    );
  });
}

/**
 * How much what a bar repeats changes at a line: distance of the smoothed rows of the lag matrix on its two sides.
 * Source: structure features, Serrà, Müller, Grosche & Arcos 2014, from memory.
 */
function lagNovelty(s: BarLikeness, count: number): Float32Array {
  const width = 3;
  const row = (from: number, step: 1 | -1): Float32Array => {
    const out = new Float32Array(2 * count);
    let weight = 0;
    for (let d = 0; d < width; d++) {
      const i = from + step * d;
      if (i < 0 || i >= count) break;
      const w = 1 - d / (width + 1);
      weight += w;
      for (let j = 0; j < count; j++)
        out[j - i + count] = (out[j - i + count] as number) + w * Math.max(0, s[i * count + j] as number);
    }
    return weight > 0 ? out.map((x) => x / weight) : out;
  };
  return Float32Array.from({ length: count }, (_, at) => {
    if (at === 0) return 0;
    const [before, after] = [row(at - 1, -1), row(at, 1)];
    let sum = 0;
    for (let k = 0; k < before.length; k++) sum += ((after[k] as number) - (before[k] as number)) ** 2;
    return Math.sqrt(sum / count);
  });
}

/** Whether what is somewhere else in the song begins (`step` 1) or ends (−1) here: alike on one side of the line, and not on the other. The two best places count. */
export function repeatEdge(s: BarLikeness, count: number, step: 1 | -1): Float32Array {
  // Where the song ends there is nothing outside: how alike its bars are in general stands for that.
  const usual = mean(s);
  const best = new Float32Array(count);
  const second = new Float32Array(count);
  const offer = (at: number, edge: number): void => {
    if (at === 0) return;
    if (edge > (best[at] as number)) {
      second[at] = best[at] as number;
      best[at] = edge;
    } else if (edge > (second[at] as number)) second[at] = edge;
  };
  for (let lag = REPEAT_BARS; lag < count; lag++) {
    /** Sums along the diagonal of this lag. */
    const sums = new Float64Array(count - lag + 1);
    for (let i = 0; i < count - lag; i++)
      sums[i + 1] = (sums[i] as number) + (s[i * count + i + lag] as number);
    const over = (from: number, to: number): number => {
      const [a, b] = [Math.max(0, from), Math.min(count - lag, to)];
      return b > a ? ((sums[b] as number) - (sums[a] as number)) / (b - a) : NaN;
    };
    for (let i = 0; i <= count - lag; i++) {
      const [from, to] = step === 1 ? [i, i + REPEAT_BARS] : [i - REPEAT_BARS, i];
      if (from < 0 || to > count - lag) continue;
      const inside = over(from, to);
      const outside = step === 1 ? over(i - REPEAT_BARS, i) : over(i, i + REPEAT_BARS);
      const edge = inside - (Number.isNaN(outside) ? usual : outside);
      offer(i, edge);
      if (i + lag < count) offer(i + lag, edge);
    }
  }
  return best.map((x, at) => (x + (second[at] as number)) / 2);
}

/** What the players do at a line. */
function playingCues(bars: BarFeatures, together: BarLikeness): [string, Float32Array][] {
  const { count, tracks, voice } = bars;
  const weights = tracks.reduce((sum, t) => sum + t.weight, 0) || 1;
  const line = (of: (at: number) => number): Float32Array =>
    Float32Array.from({ length: count }, (_, at) => (at === 0 ? 0 : of(at)));
  const change = (of: Float32Array, at: number): number => (of[at] as number) - (of[at - 1] as number);
  /** Mean over up to two bars. */
  const around = (of: Float32Array, from: number): number => mean(of.subarray(Math.max(0, from), from + 2));
  const step = (sign: 1 | -1) =>
    line((at) =>
      tracks.reduce((sum, t) => {
        const by = sign * (around(t.activity, at) - around(t.activity, at - 2));
        return sum + (by > 0.4 ? (t.weight * by) / weights : 0);
      }, 0),
    );
  const kitStep = (sign: 1 | -1) =>
    line((at) => Math.max(0, (sign * (around(bars.hits, at) - around(bars.hits, at - 2))) / 8));
  return [
    ['crash', line((at) => Math.max(0, bars.crash[at] as number) / 12)],
    [
      'crash-alone',
      line(
        (at) =>
          Math.max(
            0,
            (bars.crash[at] as number) - Math.max(bars.crash[at - 1] as number, bars.crash[at + 1] ?? -20),
          ) / 12,
      ),
    ],
    ['toms-before', line((at) => Math.max(0, (bars.toms[at - 1] as number) - around(bars.toms, at - 3)))],
    ['fill-before', line((at) => unlikeNeighbours(together, count, at - 1))],
    ['voice-enters', line((at) => Math.max(0, around(voice, at) - around(voice, at - 2)))],
    ['voice-leaves', line((at) => Math.max(0, around(voice, at - 2) - around(voice, at)))],
    ['voice-alone', line((at) => Math.max(0, change(voice, at)))],
    ['enter', step(1)],
    ['leave', step(-1)],
    ['kit-enters', kitStep(1)],
    ['kit-leaves', kitStep(-1)],
    ['louder', line((at) => Math.max(0, around(bars.levelDb, at) - around(bars.levelDb, at - 2)) / 6)],
    ['softer', line((at) => Math.max(0, around(bars.levelDb, at - 2) - around(bars.levelDb, at)) / 6)],
  ];
}

/** How much a bar is unlike the two before it while those are alike: a fill. */
function unlikeNeighbours(s: BarLikeness, count: number, bar: number): number {
  if (bar < 2) return 0;
  const at = (a: number, b: number): number => s[a * count + b] as number;
  return Math.max(0, at(bar - 1, bar - 2) - (at(bar, bar - 1) + at(bar, bar - 2)) / 2);
}

function byLoudEnd(values: Float32Array): Float32Array {
  const usual = Math.max(CUE_FLOOR, percentile(values, LOUD_SHARE));
  return values.map((x) => clip(x / usual, -MOST, MOST));
}

const overNeighbours = (x: Float32Array): Float32Array =>
  x.map((v, i) => v - Math.max(x[i - 1] ?? 0, x[i + 1] ?? 0));
