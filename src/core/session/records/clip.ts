import { FARTHEST_FRAMES, flag, integer, nullable, number, oneOf, reference } from './field';
import { kind } from './kind';

/** How the sound comes in or goes out: over a cross-fade two of one shape keep their sum (`equal-gain`) or the sum of their powers (`equal-power`). */
export const FADE_SHAPES = ['equal-gain', 'equal-power'] as const;

/** A shape of a fade. */
export type FadeShape = (typeof FADE_SHAPES)[number];

/** Longest fade: ten minutes at the highest rate. */
const LONGEST_FADE = 600 * 768_000;

/** A stretch of a track's time in which one of its lanes sounds. Those of a track overlap only where they cross-fade. */
export const CLIP = kind(
  'clips',
  {
    laneId: reference({ kind: 'lane', isOwner: true }),
    /** First frame in the session, at the session rate; null = where the lane begins. */
    fromFrames: nullable(integer(-FARTHEST_FRAMES, FARTHEST_FRAMES)),
    /** First frame after it; null = where the lane ends. */
    toFrames: nullable(integer(-FARTHEST_FRAMES, FARTHEST_FRAMES)),
    /** By how much its sound was moved from where it was recorded; 0 = in place. */
    slipFrames: integer(-FARTHEST_FRAMES, FARTHEST_FRAMES, { initial: 0 }),
    /** dB, before the level of the track. */
    gainDb: number(-120, 24, { initial: 0 }),
    fadeInFrames: integer(0, LONGEST_FADE, { initial: 0 }),
    fadeInShape: oneOf(FADE_SHAPES, { initial: 'equal-gain' }),
    fadeOutFrames: integer(0, LONGEST_FADE, { initial: 0 }),
    fadeOutShape: oneOf(FADE_SHAPES, { initial: 'equal-gain' }),
    /** Kept, but silent. */
    off: flag({ initial: false }),
  },
  () => 'clip',
  { most: 200_000 },
);

/** What a clip is where nothing was said: all of its lane, as it is. */
export const WHOLE_CLIP = {
  fromFrames: null,
  toFrames: null,
  slipFrames: 0,
  gainDb: 0,
  fadeInFrames: 0,
  fadeInShape: 'equal-gain',
  fadeOutFrames: 0,
  fadeOutShape: 'equal-gain',
  off: false,
} as const;
