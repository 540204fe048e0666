import { ROWS } from './ngrams';
import { NGRAM_WEIGHTS } from './ngram-weights';

/** Weights as they are kept: one character a weight, see {@link packed}. */
export interface PackedNgrams {
  /** `family/part`; `unknown/` for names that say nothing. */
  readonly classes: readonly string[];
  /** What each row says, `width` weights a row. */
  readonly rows: string;
  /** What each class makes of it, `width` weights a class. */
  readonly outputs: string;
  readonly rowScale: number;
  readonly outputScale: number;
}

/** Weights of a model: `width` a row, `width` a class. */
export interface NgramWeights {
  readonly classes: readonly string[];
  readonly rows: Float32Array;
  readonly outputs: Float32Array;
}

/** Weights of a row. */
export const WIDTH = 32;

const LEVELS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_';
const ZERO = LEVELS.length / 2;
/** Larger weights are cut off: few are, and the rest is kept the finer. In standard deviations. */
const CUT_OFF = 4;

/** Weights of 64 levels, with the size of a step. */
export function packed(weights: Float32Array): { readonly text: string; readonly scale: number } {
  const power = weights.reduce((sum, x) => sum + x * x, 0) / Math.max(1, weights.length);
  const scale = (CUT_OFF * Math.sqrt(power)) / ZERO || 1;
  const level = (x: number): number => Math.max(-ZERO, Math.min(ZERO - 1, Math.round(x / scale))) + ZERO;
  return { text: Array.from(weights, (x) => LEVELS[level(x)]).join(''), scale };
}

/** The inverse of {@link packed}, to half a step. */
export function unpacked(text: string, scale: number): Float32Array {
  const levelOf = new Int8Array(128);
  for (let i = 0; i < LEVELS.length; i++) levelOf[LEVELS.charCodeAt(i)] = i - ZERO;
  return Float32Array.from(text, (c) => (levelOf[c.charCodeAt(0)] as number) * scale);
}

/** What the letters of a name say, whatever the lexicon makes of it. */
export interface Opinion {
  /** Natural logarithm of how likely the name is of this family and part, by the letters alone. */
  logLikelihood(family: string, part: string | null): number;
  /** Likelihood by family, 0–1. */
  readonly families: ReadonlyMap<string, number>;
}

/** Of a family and part that the model has not seen. */
const UNSEEN = -9;

/**
 * Tells family and part by the letters and words of a name, learned from labelled names.
 * Source: linear model over hashed n-grams with a narrow middle (Joulin et al. 2016, Bag of Tricks for Efficient Text Classification), from memory.
 */
export class NgramModel {
  readonly #weights: NgramWeights;
  readonly #places: ReadonlyMap<string, number>;

  /** Throws on weights of another size. */
  constructor(weights: NgramWeights) {
    if (weights.rows.length !== ROWS * WIDTH || weights.outputs.length !== weights.classes.length * WIDTH)
      throw new Error('n-gram weights are of another size than the model');
    this.#weights = weights;
    this.#places = new Map(weights.classes.map((c, i) => [c, i]));
  }

  /** By the rows of a name; none = it says nothing, everything is alike. */
  opinionOf(rows: readonly number[]): Opinion {
    const likelihoods = likelihoodsOf(this.#weights, rows);
    const families = new Map<string, number>();
    this.#weights.classes.forEach((c, i) => {
      const family = c.slice(0, c.indexOf('/'));
      families.set(family, (families.get(family) ?? 0) + (likelihoods[i] as number));
    });
    return {
      families,
      logLikelihood: (family, part) => {
        const place = this.#places.get(`${family}/${part ?? ''}`);
        return place === undefined ? UNSEEN : Math.max(UNSEEN, Math.log(likelihoods[place] as number));
      },
    };
  }
}

/** The middle of the model: the rows' weights, added and evened out by their number. */
export function middleOf(
  { rows: weights }: NgramWeights,
  rows: readonly number[],
  middle: Float32Array,
): void {
  middle.fill(0);
  for (const row of rows)
    for (let k = 0; k < WIDTH; k++) middle[k] = (middle[k] as number) + (weights[row * WIDTH + k] as number);
  const even = 1 / Math.sqrt(Math.max(1, rows.length));
  for (let k = 0; k < WIDTH; k++) middle[k] = (middle[k] as number) * even;
}

/** Likelihoods of all classes, which add up to 1. */
export function softmaxOf({ outputs, classes }: NgramWeights, middle: Float32Array): Float32Array {
  const out = new Float32Array(classes.length);
  let highest = -Infinity;
  for (let c = 0; c < out.length; c++) {
    let sum = 0;
    for (let k = 0; k < WIDTH; k++) sum += (outputs[c * WIDTH + k] as number) * (middle[k] as number);
    out[c] = sum;
    highest = Math.max(highest, sum);
  }
  let total = 0;
  for (let c = 0; c < out.length; c++) total += out[c] = Math.exp((out[c] as number) - highest);
  for (let c = 0; c < out.length; c++) out[c] = (out[c] as number) / total;
  return out;
}

function likelihoodsOf(weights: NgramWeights, rows: readonly number[]): Float32Array {
  const middle = new Float32Array(WIDTH);
  middleOf(weights, rows, middle);
  return softmaxOf(weights, middle);
}

let trained: NgramModel | null = null;

/** The model that ships; unpacked at the first call. */
export const ngramModel = (): NgramModel => (trained ??= new NgramModel(unpackedModel(NGRAM_WEIGHTS)));

const unpackedModel = (kept: PackedNgrams): NgramWeights => ({
  classes: kept.classes,
  rows: unpacked(kept.rows, kept.rowScale),
  outputs: unpacked(kept.outputs, kept.outputScale),
});
