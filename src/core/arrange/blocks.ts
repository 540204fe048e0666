import { addPiece, steadyGain } from './gain';
import type { Piece } from './pieces';

/** Frames a block, at most. */
const BLOCK_FRAMES = 65_536;

/** Reads `count` frames of a sound from `from` on, a list for each of its channels. */
export type ReadSound<S> = (sound: S, from: number, count: number) => Promise<readonly Float32Array[]>;

/** What part of a piece lies in `[from, to)` of the session; null = none. */
export function partIn<S>(
  piece: Piece<S>,
  from: number,
  to: number,
): { readonly fromFrames: number; readonly soundFrames: number; readonly count: number } | null {
  const begin = Math.max(piece.fromFrames, from);
  const count = Math.min(piece.toFrames, to) - begin;
  return count > 0
    ? { fromFrames: begin, soundFrames: piece.soundFrames + begin - piece.fromFrames, count }
    : null;
}

/** The channel of a sound that is heard in channel `c` of its track: one channel stands for all. */
export const channelFor = (
  piece: Pick<Piece<unknown>, 'fromChannel'>,
  channels: readonly Float32Array[],
  c: number,
): Float32Array => channels[Math.min(piece.fromChannel ?? c, channels.length - 1)] as Float32Array;

/** Frames `[from, to)` of a track as it sounds, in blocks; channels may share their samples. */
export async function* arrangedBlocks<S>(
  pieces: readonly Piece<S>[],
  range: { readonly channels: number; readonly from: number; readonly to: number },
  read: ReadSound<S>,
): AsyncGenerator<readonly Float32Array[]> {
  const channels = Array.from({ length: range.channels }, (_, c) => c);
  for (let begin = range.from; begin < range.to; begin += BLOCK_FRAMES) {
    const end = Math.min(range.to, begin + BLOCK_FRAMES);
    const parts = pieces.flatMap((piece) => {
      const part = partIn(piece, begin, end);
      return part ? [{ piece, ...part }] : [];
    });
    const [only] = parts;
    if (!only) yield channels.map(() => new Float32Array(end - begin));
    else if (parts.length === 1 && only.count === end - begin) {
      const { piece } = only;
      const sound = await read(piece.sound, only.soundFrames, only.count);
      const gain = steadyGain(piece, begin, end);
      yield channels.map((c) => {
        const samples = channelFor(piece, sound, c);
        // Most of a session is this: sound as it came. A sound that ends early is silent from there.
        if (gain !== null && samples.length === end - begin) return timesGain(samples, gain);
        const out = new Float32Array(end - begin);
        addPiece(out, begin, piece, samples, begin);
        return out;
      });
    } else {
      // Rounded once, at the end: what crosses over and cancels would keep the rounding of its parts.
      const out = channels.map(() => new Float64Array(end - begin));
      for (const { piece, fromFrames, soundFrames, count } of parts) {
        const sound = await read(piece.sound, soundFrames, count);
        out.forEach((samples, c) => addPiece(samples, begin, piece, channelFor(piece, sound, c), fromFrames));
      }
      yield out.map((samples) => Float32Array.from(samples));
    }
  }
}

/** Samples at a gain; as they are at 1. Added to 0, so that silence does not become −0 where it is turned over. */
const timesGain = (samples: Float32Array, gain: number): Float32Array =>
  gain === 1 ? samples : samples.map((x) => 0 + x * gain);
