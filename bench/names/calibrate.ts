import { Lexicon, LEXICON_SOURCES } from '../../src/core/naming/lexicon/lexicon';
import { parseLexicon } from '../../src/core/naming/lexicon/parse-lexicon';
import type { Sense } from '../../src/core/naming/lexicon/sense';
import { figuresOf, FIGURES } from '../../src/core/naming/reader/confidence';
import { DeliveryReader } from '../../src/core/naming/reader/read-delivery';
import { createRandom } from '../../src/core/units';
import { isRight, type Label } from '../../tests/support/labelled-names';
import { MadeDeliveries } from './made-deliveries';

/** Weights that tell how likely a reading is right. */
export interface Calibration {
  readonly bias: number;
  readonly weights: readonly number[];
}

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

/** Learns weights from deliveries by hand and made ones. Source: logistic regression (Platt 1999), from memory; seeds fixed. */
export function calibrate(hand: readonly (readonly Label[])[]): Calibration & { readonly examples: number } {
  const senses = LEXICON_SOURCES.flatMap((t) => parseLexicon(t).senses);
  const examples: Example[] = [];
  LESS.forEach((share, i) => {
    const words = new Lexicon(thinned(senses, share, 20 + i));
    const reader = new DeliveryReader(words);
    const collect = (delivery: readonly Label[], weight: number): void => {
      const { names, company } = reader.read(
        delivery.map((l) => l.name),
        (atoms) => atoms,
      );
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
    for (let n = 0; n < MADE_EACH; n++) collect(made.next(), 1);
    for (const delivery of hand) collect(delivery, HAND_WEIGHT);
  });
  return { ...fit(examples), examples: examples.length };
}

const STEPS = 1500;
const RATE = 0.5;
const DECAY = 1e-4;

function fit(examples: readonly Example[]): Calibration {
  const n = FIGURES.length;
  const mean = FIGURES.map((_, k) => examples.reduce((s, e) => s + (e.figures[k] ?? 0), 0) / examples.length);
  const spread = FIGURES.map(
    (_, k) =>
      Math.sqrt(
        examples.reduce((s, e) => s + ((e.figures[k] ?? 0) - (mean[k] ?? 0)) ** 2, 0) / examples.length,
      ) + 1e-6,
  );
  const rows = examples.map((e) => e.figures.map((x, k) => (x - (mean[k] ?? 0)) / (spread[k] ?? 1)));
  const weights = new Float64Array(n);
  let bias = 0;
  const total = examples.reduce((s, e) => s + e.weight, 0);
  for (let step = 0; step < STEPS; step++) {
    const slope = new Float64Array(n);
    let shift = 0;
    rows.forEach((row, i) => {
      const e = examples[i] as Example;
      const z = row.reduce((s, x, k) => s + x * (weights[k] ?? 0), bias);
      const g = (1 / (1 + Math.exp(-z)) - (e.right ? 1 : 0)) * e.weight;
      row.forEach((x, k) => (slope[k] = (slope[k] ?? 0) + g * x));
      shift += g;
    });
    for (let k = 0; k < n; k++)
      weights[k] = (weights[k] ?? 0) - RATE * ((slope[k] ?? 0) / total + DECAY * (weights[k] ?? 0));
    bias -= (RATE * shift) / total;
  }
  const plain = [...weights].map((w, k) => w / (spread[k] ?? 1));
  return {
    weights: plain.map((w) => Math.round(w * 1e4) / 1e4),
    bias: Math.round((bias - STRANGERS - plain.reduce((s, w, k) => s + w * (mean[k] ?? 0), 0)) * 1e4) / 1e4,
  };
}
