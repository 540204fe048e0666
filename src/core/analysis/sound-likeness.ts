import { SOUND_MODEL } from './sound-model';
import type { RhythmCurves } from './onsets';
import { type PitchWidth } from './pitch-width';
import { type SoundSketch } from './sketch';
import { soundFeatures } from './sound-features';

/** Kinds of sound that are told apart by ear. */
export const SOUND_KINDS = [
  'drums',
  'bass',
  'sustained',
  'plucked',
  'voice-like',
  'noise',
  'several',
] as const;

/** One of {@link SOUND_KINDS}. */
export type SoundKind = (typeof SOUND_KINDS)[number];

/** What a recording may be by ear, each with the kind it belongs to; `cymbals` = from above, `room` = a kit from afar, `several` = many instruments at once. */
const KIND_OF = {
  kick: 'drums',
  snare: 'drums',
  hat: 'drums',
  toms: 'drums',
  cymbals: 'drums',
  room: 'drums',
  'hand-percussion': 'drums',
  bass: 'bass',
  plucked: 'plucked',
  keys: 'plucked',
  mallets: 'plucked',
  organ: 'sustained',
  bowed: 'sustained',
  blown: 'sustained',
  synth: 'sustained',
  voice: 'voice-like',
  choir: 'voice-like',
  speech: 'voice-like',
  noise: 'noise',
  several: 'several',
} as const satisfies Readonly<Record<string, SoundKind>>;

/** A source of sound told by ear. */
export type SoundClass = keyof typeof KIND_OF;

/** All of them, in the order of the model's outputs. */
export const SOUND_CLASSES = Object.keys(KIND_OF) as readonly SoundClass[];

/** What a condition can ask of a sound: a kind, or one source of sound. */
export type SoundName = SoundKind | SoundClass;

/** All of {@link SoundName}, kinds first. */
export const SOUND_NAMES: readonly SoundName[] = [...new Set<SoundName>([...SOUND_KINDS, ...SOUND_CLASSES])];

/** The kind a sound belongs to. */
export const kindOfSound = (sound: SoundClass): SoundKind => KIND_OF[sound];

/** What a recording sounds like. */
export interface SoundLikeness {
  readonly kind: SoundKind;
  /** 0–1; below 0.7 it is not said. */
  readonly confidence: number;
  /** The likeliest single sources, the likeliest first; missing where it was heard before this was asked. */
  readonly sounds?: readonly SoundSource[];
}

/** A source of sound and how likely it is that, 0–1. */
export interface SoundSource {
  readonly sound: SoundClass;
  readonly confidence: number;
}

/** So many sources are kept, of those as likely as this at least. */
const MOST_SOURCES = 3;
const LEAST_LIKELY = 0.05;

/** A small network: standardised features, one hidden layer of tanh units, a soft choice among the sounds; the mean of several. */
export interface SoundModel {
  readonly mean: readonly number[];
  readonly scale: readonly number[];
  /** Power that odds are raised to before it is said how sure: chosen on a sound font left out of the training. */
  readonly sharpness: number;
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

/** How likely each sound is, in the order of {@link SOUND_CLASSES}. */
export function soundOdds(model: SoundModel, features: ArrayLike<number>): number[] {
  const x = Float64Array.from(features, (v, i) =>
    Math.max(-FARTHEST, Math.min(FARTHEST, (v - (model.mean[i] as number)) / (model.scale[i] as number))),
  );
  const odds = new Array<number>(SOUND_CLASSES.length).fill(0);
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
  const sharp = odds.map((p) => p ** model.sharpness);
  const sum = sharp.reduce((s, p) => s + p, 0);
  return sharp.map((p) => p / sum);
}

/** The likeliest kind and the likeliest sounds, from how likely each sound is. */
export function likenessFromOdds(odds: readonly number[]): SoundLikeness {
  const kinds = SOUND_KINDS.map((kind) =>
    odds.reduce((s, p, k) => s + (KIND_OF[SOUND_CLASSES[k] as SoundClass] === kind ? p : 0), 0),
  );
  const confidence = Math.max(...kinds);
  return {
    kind: SOUND_KINDS[kinds.indexOf(confidence)] as SoundKind,
    confidence,
    sounds: odds
      .map((p, k): SoundSource => ({ sound: SOUND_CLASSES[k] as SoundClass, confidence: p }))
      .sort((a, b) => b.confidence - a.confidence)
      .filter((s, i) => i < MOST_SOURCES && (i === 0 || s.confidence >= LEAST_LIKELY)),
  };
}

/** What a recording sounds like; null when there is too little of it. */
export function soundLikeness(
  rhythm: RhythmCurves,
  sketch: SoundSketch,
  pitch: PitchWidth,
): SoundLikeness | null {
  const features = soundFeatures(rhythm, sketch, pitch);
  return features && likenessFromOdds(soundOdds(SOUND_MODEL, features));
}
