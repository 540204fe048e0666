import { PITCH_CLASSES, SKETCH_BANDS } from '../analysis';
import { type BarFeatures, type PitchBars, RHYTHM_RANGES, RHYTHM_SLOTS } from './bar-features';
import { clip, mean } from './bar-math';

/** Bars from … to before. */
export interface BarSpan {
  readonly fromBar: number;
  readonly toBar: number;
}

/** How far two sections may be shifted against each other to be compared, bars. */
const MOST_SHIFT = 4;
/** Another key must win by so much. */
const KEY_LEAD = 0.12;
/** A voice sounds from here on. */
const SINGS = 0.3;

/** In what two sections are compared; all about 0–1. */
export const ALIKE_FACTS = [
  'harmony',
  'bass',
  'melody',
  'rhythm',
  'timbre',
  'activity',
  'voice',
  'hits',
  'length',
  'both sing',
] as const;

/** Facts of two sections, in the order of {@link ALIKE_FACTS}; compared in so many keys, the same first. */
export function alikeFacts(bars: BarFeatures, a: BarSpan, b: BarSpan, keys = PITCH_CLASSES): number[] {
  const [short, long] = lengthOf(a) <= lengthOf(b) ? [a, b] : [b, a];
  let best = { score: -Infinity, harmony: 0, bass: 0, melody: 0 };
  const slack = lengthOf(long) - lengthOf(short);
  const shifts = new Set([
    0,
    slack,
    ...[-MOST_SHIFT, -2, 2, MOST_SHIFT].filter((s) => lengthOf(short) > 4 + Math.abs(s)),
  ]);
  for (let key = 0; key < keys; key++)
    for (const shift of shifts) {
      const at = { short, long, shift, key };
      const [harmony, bass, melody] = [
        aligned(bars.harmony, at),
        aligned(bars.bass, at),
        aligned(bars.melody, at),
      ];
      const score = harmony + bass + melody - (key === 0 ? 0 : 3 * KEY_LEAD);
      if (score > best.score) best = { score, harmony, bass, melody };
    }
  const share = (values: Float32Array, s: BarSpan): number => mean(values.subarray(s.fromBar, s.toBar));
  const sung = (s: BarSpan): number =>
    mean([...bars.voice.subarray(s.fromBar, s.toBar)].map((v) => Number(v > SINGS)));
  return [
    best.harmony,
    best.bass,
    best.melody,
    meansAlike(bars, 'rhythm', a, b),
    meansAlike(bars, 'timbre', a, b),
    meansAlike(bars, 'activity', a, b),
    1 - Math.abs(sung(a) - sung(b)),
    1 - clip(Math.abs(share(bars.hits, a) - share(bars.hits, b)) / 12, 0, 1),
    lengthOf(short) / Math.max(1, lengthOf(long)),
    Math.min(sung(a), sung(b)),
  ];
}

export const lengthOf = ({ fromBar, toBar }: BarSpan): number => toBar - fromBar;

/** Mean cosine of two stretches laid over each other, one of them moved by bars and semitones. */
function aligned(
  { values, slots }: PitchBars,
  {
    short,
    long,
    shift,
    key,
  }: { readonly short: BarSpan; readonly long: BarSpan; readonly shift: number; readonly key: number },
): number {
  let [dot, a2, b2] = [0, 0, 0];
  for (let bar = short.fromBar; bar < short.toBar; bar++) {
    const other = long.fromBar + shift + bar - short.fromBar;
    if (other < long.fromBar || other >= long.toBar) continue;
    for (let s = 0; s < slots; s++)
      for (let k = 0; k < PITCH_CLASSES; k++) {
        const x = values[(bar * slots + s) * PITCH_CLASSES + k] ?? 0;
        const y = values[(other * slots + s) * PITCH_CLASSES + ((k + key) % PITCH_CLASSES)] ?? 0;
        dot += x * y;
        a2 += x * x;
        b2 += y * y;
      }
  }
  return a2 * b2 > 1e-12 ? dot / Math.sqrt(a2 * b2) : 0;
}

const SIZES = { rhythm: RHYTHM_SLOTS * RHYTHM_RANGES, timbre: SKETCH_BANDS, activity: 1 } as const;

/** Mean bars of a section, track after track, by what they are compared in. */
type MeanBars = Readonly<Record<keyof typeof SIZES, Float32Array>>;
const means = new WeakMap<BarFeatures, Map<string, MeanBars>>();

/** Worked out once for each stretch of a song: every pair asks for it. */
function meanBars(bars: BarFeatures, { fromBar, toBar }: BarSpan): MeanBars {
  const known = means.get(bars) ?? new Map<string, MeanBars>();
  means.set(bars, known);
  const key = `${fromBar} ${toBar}`;
  const of = (kind: keyof typeof SIZES): Float32Array => {
    const size = SIZES[kind];
    const out = new Float32Array(size * bars.tracks.length);
    bars.tracks.forEach((track, t) => {
      for (let i = fromBar; i < toBar; i++)
        for (let d = 0; d < size; d++)
          out[t * size + d] =
            (out[t * size + d] as number) +
            (track[kind][i * size + d] as number) / Math.max(1, toBar - fromBar);
    });
    return out;
  };
  const found = known.get(key) ?? { rhythm: of('rhythm'), timbre: of('timbre'), activity: of('activity') };
  known.set(key, found);
  return found;
}

/** How near two sections' mean bars are, track by track; 1 = the same. */
function meansAlike(bars: BarFeatures, of: keyof typeof SIZES, a: BarSpan, b: BarSpan): number {
  const size = SIZES[of];
  const [one, other] = [meanBars(bars, a)[of], meanBars(bars, b)[of]];
  let [distance, weights] = [0, 0];
  bars.tracks.forEach(({ weight }, t) => {
    for (let d = t * size; d < (t + 1) * size; d++)
      distance += (weight * ((one[d] as number) - (other[d] as number)) ** 2) / size;
    weights += weight;
  });
  return 1 - clip(Math.sqrt(distance / (weights || 1)) * 2, 0, 1);
}

/**
 * Sections that are alike, as numbers of groups in order of appearance: the two groups most alike become one as long as
 * the mean of the log-odds between their members is above 0 (average linkage).
 */
export function groupAlike(count: number, odds: (a: number, b: number) => number): number[] {
  /** Sums of log-odds between groups; a group goes by its first member. */
  const sums = Array.from({ length: count }, () => new Float64Array(count));
  for (let a = 0; a < count; a++)
    for (let b = 0; b < a; b++) (sums[a] as Float64Array)[b] = (sums[b] as Float64Array)[a] = odds(a, b);
  const sizes = new Array<number>(count).fill(1);
  const groupOf = Array.from({ length: count }, (_, i) => i);
  const sumOf = (a: number, b: number): number => sums[a]?.[b] as number;
  for (;;) {
    const alive = sizes.flatMap((size, i) => (size > 0 ? [i] : []));
    let best = { odds: 0, into: -1, from: -1 };
    for (const from of alive)
      for (const into of alive) {
        if (into >= from) break;
        const now = sumOf(from, into) / ((sizes[from] as number) * (sizes[into] as number));
        if (now > best.odds) best = { odds: now, into, from };
      }
    const { into, from } = best;
    if (from < 0) break;
    for (const other of alive)
      (sums[into] as Float64Array)[other] = (sums[other] as Float64Array)[into] =
        sumOf(into, other) + sumOf(from, other);
    sizes[into] = (sizes[into] as number) + (sizes[from] as number);
    sizes[from] = 0;
    groupOf.forEach((g, i) => {
      if (g === from) groupOf[i] = into;
    });
  }
  const order = [...new Set(groupOf)];
  return groupOf.map((g) => order.indexOf(g));
}
