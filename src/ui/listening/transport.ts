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

/** Frames each ring holds; a power of two, 5.5 s at 48 kHz. */
export const RING_FRAMES = 1 << 18;

/** Places in the shared control array. */
export const CONTROL = { feederEpoch: 0, mixerEpoch: 1, streamed: 2, starved: 3, songFrame: 4, peakMilli: 5, words: 8 } as const;

/** One track as mixer and feeder see it. */
export interface MixTrack {
  /** Address its sound is served under, without `/pcm`. */
  readonly audio: string;
  readonly channels: number;
  readonly lengthFrames: number;
  readonly startFrames: number;
  /** One ring a channel, {@link RING_FRAMES} float32 each, in one shared buffer. */
  readonly rings: SharedArrayBuffer;
}

/** What the page tells the mixer. */
export type MixerMessage =
  | { readonly kind: 'tracks'; readonly control: SharedArrayBuffer; readonly watermarks: SharedArrayBuffer; readonly tracks: readonly MixTrack[] }
  | { readonly kind: 'start'; readonly epoch: number; readonly startFrames: number; readonly loop: Loop | null }
  | { readonly kind: 'stop' }
  | { readonly kind: 'gains'; readonly left: Float32Array; readonly right: Float32Array }
  | { readonly kind: 'click'; readonly frames: Float64Array; readonly accents: Uint8Array; readonly gain: number };

/** What the page tells the feeder. */
export type FeederMessage =
  | { readonly kind: 'tracks'; readonly control: SharedArrayBuffer; readonly watermarks: SharedArrayBuffer; readonly tracks: readonly MixTrack[] }
  | { readonly kind: 'start'; readonly epoch: number; readonly startFrames: number; readonly loop: Loop | null }
  | { readonly kind: 'stop' };
