import { type ClickLikeness, clickLikeness } from './click-like';
import { type SoundLikeness, soundLikeness } from './sound-likeness';
import { CHROMA_PER_SECOND, PITCH_CLASSES } from './harmony';
import { type RhythmCurves, ONSETS_PER_SECOND } from './onsets';
import { PITCHES_PER_SECOND, type PitchWidth } from './pitch-width';
import { type ReverbTail, reverbTail } from './reverb-tail';
import { SKETCH_BANDS, SKETCH_PER_SECOND, type SoundSketch } from './sketch';

/** What the listening pass makes of a recording by itself. */
export interface HeardFacts {
  /** Null when it is no click by its sound. */
  readonly click: ClickLikeness | null;
  /** Null when no phrase ends clearly. */
  readonly tail: ReverbTail | null;
  /** What it sounds like; null when there is too little of it. Missing where it was heard before this was asked. */
  readonly as?: SoundLikeness | null;
}

/** More than this of a recording tells nothing new. */
const LOOKED_AT_SECONDS = 1200;

/** Facts from the curves, the sketch, pitch and width; of a very long recording, from its beginning. */
export function heardFacts(
  { low, mid, high, attacks, chroma }: RhythmCurves,
  { frames, levels }: SoundSketch,
  { pitchHz, clarity, side }: PitchWidth,
): HeardFacts {
  const onsets = LOOKED_AT_SECONDS * ONSETS_PER_SECOND;
  const sketched = Math.min(frames, LOOKED_AT_SECONDS * SKETCH_PER_SECOND);
  const pitched = LOOKED_AT_SECONDS * PITCHES_PER_SECOND;
  const begin: SoundSketch = { frames: sketched, levels: levels.subarray(0, sketched * SKETCH_BANDS) };
  const rhythm: RhythmCurves = {
    low: low.subarray(0, onsets),
    mid: mid.subarray(0, onsets),
    high: high.subarray(0, onsets),
    attacks,
    chroma: chroma.subarray(0, LOOKED_AT_SECONDS * CHROMA_PER_SECOND * PITCH_CLASSES),
  };
  return {
    click: clickLikeness(rhythm, begin),
    tail: reverbTail(begin),
    as: soundLikeness(rhythm, begin, {
      pitchHz: pitchHz.subarray(0, pitched),
      clarity: clarity.subarray(0, pitched),
      side: side.subarray(0, pitched),
    }),
  };
}
