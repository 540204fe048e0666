import { HEARD_MODEL } from './heard-model';
import { type OnsetCurves } from './onsets';
import { type PitchWidth } from './pitch-width';
import { type SoundSketch } from './sketch';
import { soundFeatures } from './sound-features';

/** Kinds of sound that are told apart by ear. */
export const HEARD_KINDS = ['drums', 'bass', 'sustained', 'plucked', 'voice-like'] as const;

/** One of {@link HEARD_KINDS}. */
export type HeardKind = (typeof HEARD_KINDS)[number];

/** What a recording sounds like. */
export interface HeardAs {
  readonly kind: HeardKind;
  /** 0–1; below 0.7 it is not said. */
  readonly confidence: number;
}

/** A small network: standardised features, one hidden layer of tanh units, a soft choice among the kinds; the mean of several. */
export interface HeardModel {
  readonly mean: readonly number[];
  readonly scale: readonly number[];
  /** Rows of a unit: a weight each input, then its bias. */
  readonly nets: readonly {
    readonly hidden: readonly (readonly number[])[];
    readonly out: readonly (readonly number[])[];
  }[];
}

const weighted = (row: readonly number[], x: ArrayLike<number>): number => {
  let sum = row[row.length - 1] as number;
  for (let i = 0; i < x.length; i++) sum += (row[i] as number) * (x[i] as number);
  return sum;
};

/** Features further out than this tell no more. */
const FARTHEST = 4;

/** How likely each kind is, in the order of {@link HEARD_KINDS}. */
export function heardOdds(model: HeardModel, features: ArrayLike<number>): number[] {
  const x = Float64Array.from(features, (v, i) =>
    Math.max(-FARTHEST, Math.min(FARTHEST, (v - (model.mean[i] as number)) / (model.scale[i] as number))),
  );
  const odds = new Array<number>(HEARD_KINDS.length).fill(0);
  for (const net of model.nets) {
    const hidden = net.hidden.map((row) => Math.tanh(weighted(row, x)));
    const raw = net.out.map((row) => weighted(row, hidden));
    const most = Math.max(...raw);
    const powers = raw.map((v) => Math.exp(v - most));
    const sum = powers.reduce((s, v) => s + v, 0);
    powers.forEach((p, k) => {
      odds[k] = (odds[k] as number) + p / sum / model.nets.length;
    });
  }
  return odds;
}

/** What a recording sounds like; null when there is too little of it. */
export function heardAs(onsets: OnsetCurves, sketch: SoundSketch, pitch: PitchWidth): HeardAs | null {
  const features = soundFeatures(onsets, sketch, pitch);
  if (!features) return null;
  const odds = heardOdds(HEARD_MODEL, features);
  const confidence = Math.max(...odds);
  return { kind: HEARD_KINDS[odds.indexOf(confidence)] as HeardKind, confidence };
}
