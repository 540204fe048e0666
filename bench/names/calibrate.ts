import { Lexicon, LEXICON_SOURCES } from '../../src/core/naming/lexicon/lexicon';
import { parseLexicon } from '../../src/core/naming/lexicon/parse-lexicon';
import type { Sense } from '../../src/core/naming/lexicon/sense';
import { figuresOf, FIGURES } from '../../src/core/naming/reader/confidence';
import { DeliveryReader } from '../../src/core/naming/reader/read-delivery';
import type { Calibration } from '../../src/core/naming/reader/calibration';
import { NgramModel } from '../../src/core/naming/reader/ngram-model';
import { createRandom, type Random } from '../../src/core/units';
import { isRight, type Label } from '../../tests/support/labelled-names';
import { MadeDeliveries } from './made-deliveries';
import { ngramExamples, readBy, trainNgrams } from './train-ngrams';

interface Example {
  readonly figures: readonly number[];
  readonly right: boolean;
  readonly weight: number;
}

/** So much of the aliases is taken away, one after the other: with all of them there are too few errors to learn from. */
const LESS = [0, 0.2, 0.3, 0.4];
const MADE_EACH = 90;
const WRONG_WEIGHT = 1.5;
const HAND_WEIGHT = 2;
/** Strangers' deliveries have at least twice the errors of ours: everything is said this much less surely, in log odds. */
export const STRANGERS = 0.9;

/** Aliases without a share of those of parts; the first of each meaning and language stays. */
function thinned(senses: readonly Sense[], share: number, seed: number): Sense[] {
  const random = createRandom(seed);
  const seen = new Set<string>();
  const gone = new Set<string>();
  return senses.filter((s) => {
    if (s.kind !== 'part') return true;
    const meaning = `${s.family}/${s.part}/${s.position}/${s.role}/${s.language}`;
    if (!seen.has(meaning)) {
      seen.add(meaning);
      return true;
    }
    const alias = `${meaning}/${s.alias}`;
    if (!gone.has(alias) && random() >= share) return true;
    gone.add(alias);
    return false;
  });
}

/** Deliveries by hand are divided into so many: of each the letters are judged by a model that has not learned it. */
const FOLDS = 3;
/** Rounds of a model that only serves this. */
const SHORT_ROUNDS = 6;

/** Learns weights from deliveries by hand and made ones; seeds fixed. `taught`: lists that teach the letters as well. */
export function calibrate(
  hand: readonly (readonly Label[])[],
  taught: readonly (readonly Label[])[],
): Calibration & { readonly examples: number } {
  const senses = LEXICON_SOURCES.flatMap((t) => parseLexicon(t).senses);
  const examples: Example[] = [];
  LESS.forEach((share, i) => {
    const fewer = thinned(senses, share, 20 + i);
    const words = new Lexicon(fewer);
    const collect = (reader: DeliveryReader, delivery: readonly Label[], weight: number): void => {
      const { names, company } = readBy(reader, delivery);
      names.forEach((name, k) => {
        const [way] = name.ways;
        const label = delivery[k];
        if (!way || !label || way.family === 'unknown') return;
        const right = isRight({ label, reading: { family: way.family, part: way.part } });
        examples.push({
          figures: figuresOf(name, company, words),
          right,
          weight: weight * (right ? 1 : WRONG_WEIGHT),
        });
      });
    };
    const made = new MadeDeliveries(senses, createRandom(100 + i));
    for (let fold = 0; fold < FOLDS; fold++) {
      const isOut = (_: unknown, k: number): boolean => k % FOLDS === fold;
      const known = (all: readonly (readonly Label[])[]): readonly (readonly Label[])[] =>
        all.filter((d, k) => !isOut(d, k));
      const weights = trainNgrams(ngramExamples(fewer, known(hand), known(taught)), SHORT_ROUNDS);
      const reader = new DeliveryReader(words, new NgramModel(weights));
      for (let n = 0; n < MADE_EACH / FOLDS; n++) collect(reader, made.next(), 1);
      for (const delivery of hand.filter(isOut)) collect(reader, delivery, HAND_WEIGHT);
    }
  });
  return { ...together(SEEDS.map((seed) => fit(examples, seed))), examples: examples.length };
}

/** Each network errs in its own way: the mean of what they say is surer of strangers than any of them. */
const SEEDS = [5, 6, 7, 8];

/** Networks as one, which says the mean of their log odds. */
const together = (networks: readonly Calibration[]): Calibration => ({
  bias: rounded(networks.reduce((s, c) => s + c.bias, 0) / networks.length),
  units: networks.flatMap((c) => c.units.map((u) => ({ ...u, weight: rounded(u.weight / networks.length) }))),
});

const rounded = (x: number): number => Math.round(x * 1e4) / 1e4;

const STEPS = 700;
const RATE = 0.02;
const DECAY = 2e-3;
const UNITS = 12;

/** Trains a network of one hidden layer on whether a reading is right. Source: back-propagation and Adam (Kingma, Ba 2015), from memory. */
function fit(examples: readonly Example[], seed: number): Calibration {
  const n = FIGURES.length;
  const mean = FIGURES.map((_, k) => examples.reduce((s, e) => s + (e.figures[k] ?? 0), 0) / examples.length);
  const spread = FIGURES.map(
    (_, k) =>
      Math.sqrt(
        examples.reduce((s, e) => s + ((e.figures[k] ?? 0) - (mean[k] ?? 0)) ** 2, 0) / examples.length,
      ) + 1e-6,
  );
  const rows = examples.map((e) =>
    Float64Array.from(e.figures, (x, k) => (x - (mean[k] ?? 0)) / (spread[k] ?? 1)),
  );
  // Per unit: weights of the figures, its bias, its weight; at the end the bias of all.
  const size = UNITS * (n + 2) + 1;
  const w = startWeights(size, createRandom(seed));
  const [m, v] = [new Float64Array(size), new Float64Array(size)];
  const total = examples.reduce((s, e) => s + e.weight, 0);
  for (let step = 1; step <= STEPS; step++) {
    const slope = slopeOf(w, rows, examples, total);
    for (let i = 0; i < size; i++) {
      const g = (slope[i] as number) + DECAY * (w[i] as number) * (i === size - 1 ? 0 : 1);
      m[i] = 0.9 * (m[i] as number) + 0.1 * g;
      v[i] = 0.999 * (v[i] as number) + 0.001 * g * g;
      const [first, second] = [(m[i] as number) / (1 - 0.9 ** step), (v[i] as number) / (1 - 0.999 ** step)];
      w[i] = (w[i] as number) - (RATE * first) / (Math.sqrt(second) + 1e-8);
    }
  }
  return {
    bias: rounded((w[size - 1] as number) - STRANGERS),
    units: Array.from({ length: UNITS }, (_, u) => {
      const at = u * (n + 2);
      const weights = FIGURES.map((__, k) => (w[at + k] as number) / (spread[k] ?? 1));
      return {
        bias: rounded((w[at + n] as number) - weights.reduce((s, x, k) => s + x * (mean[k] ?? 0), 0)),
        weight: rounded(w[at + n + 1] as number),
        weights: weights.map(rounded),
      };
    }),
  };
}

const startWeights = (size: number, random: Random): Float64Array =>
  Float64Array.from({ length: size }, () => 0.6 * (random() - 0.5));

function slopeOf(
  w: Float64Array,
  rows: readonly Float64Array[],
  examples: readonly Example[],
  total: number,
): Float64Array {
  const n = FIGURES.length;
  const slope = new Float64Array(w.length);
  const hidden = new Float64Array(UNITS);
  rows.forEach((row, r) => {
    const e = examples[r] as Example;
    let z = w[w.length - 1] as number;
    for (let u = 0; u < UNITS; u++) {
      const at = u * (n + 2);
      let sum = w[at + n] as number;
      for (let k = 0; k < n; k++) sum += (w[at + k] as number) * (row[k] as number);
      hidden[u] = Math.tanh(sum);
      z += (w[at + n + 1] as number) * (hidden[u] as number);
    }
    const g = ((1 / (1 + Math.exp(-z)) - (e.right ? 1 : 0)) * e.weight) / total;
    slope[w.length - 1] = (slope[w.length - 1] as number) + g;
    for (let u = 0; u < UNITS; u++) {
      const at = u * (n + 2);
      const h = hidden[u] as number;
      slope[at + n + 1] = (slope[at + n + 1] as number) + g * h;
      const back = g * (w[at + n + 1] as number) * (1 - h * h);
      slope[at + n] = (slope[at + n] as number) + back;
      for (let k = 0; k < n; k++) slope[at + k] = (slope[at + k] as number) + back * (row[k] as number);
    }
  });
  return slope;
}
