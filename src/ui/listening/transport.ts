import type { Piece } from '@/core/arrange';
import type { ClickSound, ClickStroke } from '@/core/time';

/** Strokes of the click by their number in messages. */
export const STROKES = ['part', 'pulse', 'accent'] as const satisfies readonly ClickStroke[];

/** A stretch to repeat, session frames, half-open. */
export interface Loop {
  readonly startFrames: number;
  readonly endFrames: number;
}

/**
 * Song position of the stream's frame `streamed` when playing began at `startFrames`.
 * The stream counts on for ever; with a loop the song position comes back. Shared by mixer and feeder, so that both agree to the sample.
 */
export function songFrame(startFrames: number, streamed: number, loop: Loop | null): number {
  const plain = startFrames + streamed;
  if (!loop || startFrames >= loop.endFrames || plain < loop.endFrames) return plain;
  return loop.startFrames + ((plain - loop.startFrames) % (loop.endFrames - loop.startFrames));
}

/** Frames until the song position next jumps; Infinity without a loop ahead. */
export function framesToJump(startFrames: number, streamed: number, loop: Loop | null): number {
  if (!loop || startFrames >= loop.endFrames) return Infinity;
  return loop.endFrames - songFrame(startFrames, streamed, loop);
}

/** Over so many frames sound fades in and out at starts, stops and jumps: 5 ms at 48 kHz, too short to hear, too long to click. */
export const FADE_FRAMES = 240;

/** Before a loop turns back, its end fades over into what leads to its start, for so many frames; never more than half the loop or than there is before the start. */
export const turnFrames = (loop: Loop): number =>
  Math.max(0, Math.min(FADE_FRAMES, loop.startFrames, Math.floor((loop.endFrames - loop.startFrames) / 2)));

/** Memory of all rings together is kept about here, float32 samples. */
const RING_SAMPLES = 1 << 24;

/** Frames each of `channels` rings holds, a power of two: 5.5 s at 48 kHz up to 64 channels, 1.4 s for many. */
export const ringFrames = (channels: number): number =>
  Math.max(1 << 16, Math.min(1 << 18, 2 ** Math.floor(Math.log2(RING_SAMPLES / Math.max(1, channels)))));

/** Places in the shared control array, 32 bits each. Frames of the stream are counted from `base` of an epoch. */
export const CONTROL = {
  feederEpoch: 0,
  mixerEpoch: 1,
  base: 2,
  streamed: 3,
  late: 4,
  songFrame: 5,
  overs: 6,
  peak: 7,
  highest: 8,
  words: 16,
} as const;

/** One track as mixer and feeder see it. */
export interface MixTrack {
  readonly channels: number;
  /** In order of time; a sound is named as for the server: `recordings/<id>` or `conformed/<key>`, the one side that is heard behind it. */
  readonly pieces: readonly Piece<string>[];
  /** One ring a channel, float32, in one shared buffer. */
  readonly rings: SharedArrayBuffer;
}

/** Sound and the memory mixer and feeder share; `watermarks` = per track, up to where the stream is filled. */
export interface TracksMessage {
  readonly kind: 'tracks';
  readonly control: SharedArrayBuffer;
  readonly watermarks: SharedArrayBuffer;
  readonly ringFrames: number;
  readonly tracks: readonly MixTrack[];
}

/** A place to stream from. */
export interface StartMessage {
  readonly kind: 'start';
  readonly epoch: number;
  readonly startFrames: number;
  readonly loop: Loop | null;
  /** The click alone for so many frames before (rounded up to whole blocks); missing = none. */
  readonly countFrames?: number | undefined;
}

/** What the page tells the mixer. */
export type MixerMessage =
  | TracksMessage
  | StartMessage
  | { readonly kind: 'stop' }
  | { readonly kind: 'gains'; readonly left: Float32Array; readonly right: Float32Array }
  | { readonly kind: 'level'; readonly gain: number }
  /** `strokes` = index in {@link STROKES}, one a click. */
  | {
      readonly kind: 'click';
      readonly frames: Float64Array;
      readonly strokes: Uint8Array;
      readonly sound: ClickSound;
      readonly gain: number;
    };

/** What the page tells the feeder: with `ahead` it only makes ready, until told to go. */
export type FeederMessage =
  | TracksMessage
  | (StartMessage & { readonly ahead: boolean })
  | { readonly kind: 'go' }
  | { readonly kind: 'stop' };

/** What the mixer tells the page: the first sound of an epoch went out. */
export interface SoundingMessage {
  readonly kind: 'sounding';
  readonly epoch: number;
}
