import { FARTHEST_FRAMES, flag, integer, nullable, oneOf, outside, reference, text } from './field';
import { kind } from './kind';

/** What can be thought of a take, the best first. */
export const TAKE_RATINGS = ['keep', 'maybe', 'no'] as const;

/** One of {@link TAKE_RATINGS}. */
export type TakeRating = (typeof TAKE_RATINGS)[number];

/** One recording, or the notes of a file, in its place on a track. */
export const LANE = kind(
  'lanes',
  {
    trackId: reference({ kind: 'track', isOwner: true }),
    /** Number of the take. */
    takeNumber: integer(1, 9999, { initial: 1 }),
    recordingId: outside({ isReceived: true }),
    /** Name of the file as it came. */
    receivedName: text(200, { isReceived: true }),
    /** First frame in the session, at the session rate; 0 = the common zero. */
    startFrames: integer(-FARTHEST_FRAMES, FARTHEST_FRAMES, { initial: 0 }),
    /** Played and handed over with polarity turned over; the file stays. */
    inverted: flag({ initial: false }),
    /** The side of a stereo file that stands for both, which makes it mono; null = as it is. */
    monoFrom: nullable(oneOf(['left', 'right'])),
    /** Recorded at another rate than the session's, it is not converted: its samples play at the session's, at another speed and pitch. */
    keepsSamples: flag({ initial: false }),
    /** For notes: whether they keep their bars or their moments; null = a sound. */
    tiedTo: nullable(oneOf(['bars', 'time'])),
    /** What a person calls the take; null = by its file. */
    takeName: nullable(text(200, { min: 1 })),
    /** What was thought of the take; null = nothing yet. */
    takeRating: nullable(oneOf(TAKE_RATINGS)),
    takeNote: text(2000, { initial: '' }),
    /** Not among those one chooses from. */
    takeAside: flag({ initial: false }),
  },
  ({ receivedName }) => receivedName,
  { isMadeByHand: false },
);
