import { type ClickLikeness, clickLikeness } from './click-like';
import type { OnsetCurves } from './onsets';
import { type ReverbTail, reverbTail } from './reverb-tail';
import type { SoundSketch } from './sketch';

/** What the listening pass makes of a recording by itself. */
export interface HeardFacts {
  /** Null when it is no click by its sound. */
  readonly click: ClickLikeness | null;
  /** Null when no phrase ends clearly. */
  readonly tail: ReverbTail | null;
}

/** Facts from the curves and the sketch. */
export const heardFacts = (onsets: OnsetCurves, sketch: SoundSketch): HeardFacts => ({ click: clickLikeness(onsets, sketch), tail: reverbTail(sketch) });
