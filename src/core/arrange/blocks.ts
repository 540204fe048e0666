import { addPiece } from './gain';
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

/** Frames `[from, to)` of a track as it sounds, in blocks. */
export async function* arrangedBlocks<S>(
  pieces: readonly Piece<S>[],
  range: { readonly channels: number; readonly from: number; readonly to: number },
  read: ReadSound<S>,
): AsyncGenerator<readonly Float32Array[]> {
  for (let begin = range.from; begin < range.to; begin += BLOCK_FRAMES) {
    const end = Math.min(range.to, begin + BLOCK_FRAMES);
    // Rounded once, at the end: what crosses over and cancels would keep the rounding of its parts.
    const out = Array.from({ length: range.channels }, () => new Float64Array(end - begin));
    for (const piece of pieces) {
      const part = partIn(piece, begin, end);
      if (!part) continue;
      const sound = await read(piece.sound, part.soundFrames, part.count);
      out.forEach((samples, c) =>
        addPiece(samples, begin, piece, channelFor(piece, sound, c), part.fromFrames),
      );
    }
    yield out.map((samples) => Float32Array.from(samples));
  }
}
