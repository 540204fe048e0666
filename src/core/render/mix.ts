import { channelFor, gainAt, type Piece } from '../arrange';

/** Level and place of a track in the stereo mix. */
export interface Strip {
  readonly channels: number;
  readonly gainDb: number;
  /** −1 (left) … 1 (right). */
  readonly pan: number;
  readonly inverted: boolean;
  /** Linear gains of the buses on its way; missing = it goes straight to the mix. */
  readonly buses?: { readonly left: number; readonly right: number };
}

/**
 * Linear gains of a track's way to left and right. Mono: equal power, −3.01 dB in the middle; stereo: balance, 0 dB in the middle
 * (common practice, no source). Negative when polarity is turned over.
 */
export function stripGains({ channels, gainDb, pan, inverted, buses }: Strip): {
  readonly left: number;
  readonly right: number;
} {
  const gain = (inverted ? -1 : 1) * 10 ** (gainDb / 20);
  const [toLeft, toRight] = [gain * (buses?.left ?? 1), gain * (buses?.right ?? 1)];
  const angle = ((pan + 1) * Math.PI) / 4;
  return channels === 1
    ? { left: toLeft * Math.cos(angle), right: toRight * Math.sin(angle) }
    : { left: toLeft * Math.min(1, 1 - pan), right: toRight * Math.min(1, 1 + pan) };
}

/** A track in memory, to be mixed. */
export interface MixedTrack extends Strip {
  /** What sounds of it; each sound is its channels. */
  readonly pieces: readonly Piece<readonly Float32Array[]>[];
}

/** Frames `[from, from + count)` of the stereo mix, in double precision: what every player of ours is measured against. */
export function mixDown(
  tracks: readonly MixedTrack[],
  from: number,
  count: number,
): readonly [Float64Array, Float64Array] {
  const out = [new Float64Array(count), new Float64Array(count)] as const;
  for (const track of tracks) {
    const strip = stripGains(track);
    for (const piece of track.pieces) {
      const end = Math.min(from + count, piece.toFrames);
      for (let frame = Math.max(from, piece.fromFrames); frame < end; frame++) {
        const gain = gainAt(piece, frame);
        const at = piece.soundFrames + frame - piece.fromFrames;
        out.forEach((side, c) => {
          const sample = channelFor(piece, piece.sound, c)[at] as number;
          side[frame - from] =
            (side[frame - from] as number) + sample * gain * (c === 0 ? strip.left : strip.right);
        });
      }
    }
  }
  return out;
}
