/** Level and place of a track in the stereo mix. */
export interface Strip {
  readonly channels: number;
  readonly gainDb: number;
  /** −1 (left) … 1 (right). */
  readonly pan: number;
  readonly inverted: boolean;
}

/**
 * Linear gains of a track's way to left and right. Mono: equal power, −3.01 dB in the middle; stereo: balance, 0 dB in the middle
 * (common practice, no source). Negative when polarity is turned over.
 */
export function stripGains({ channels, gainDb, pan, inverted }: Strip): {
  readonly left: number;
  readonly right: number;
} {
  const gain = (inverted ? -1 : 1) * 10 ** (gainDb / 20);
  const angle = ((pan + 1) * Math.PI) / 4;
  return channels === 1
    ? { left: gain * Math.cos(angle), right: gain * Math.sin(angle) }
    : { left: gain * Math.min(1, 1 - pan), right: gain * Math.min(1, 1 + pan) };
}

/** A track in memory, to be mixed: its sound begins at `startFrames`. */
export interface MixedTrack extends Strip {
  readonly sound: readonly Float32Array[];
  readonly startFrames: number;
}

/** Frames `[from, from + count)` of the stereo mix, in double precision: what every player of ours is measured against. */
export function mixDown(
  tracks: readonly MixedTrack[],
  from: number,
  count: number,
): readonly [Float64Array, Float64Array] {
  const out = [new Float64Array(count), new Float64Array(count)] as const;
  for (const track of tracks) {
    const { left, right } = stripGains(track);
    const a = track.sound[0] as Float32Array;
    const b = track.sound[1] ?? a;
    for (
      let i = Math.max(0, track.startFrames - from);
      i < count && from + i - track.startFrames < a.length;
      i++
    ) {
      const at = from + i - track.startFrames;
      out[0][i] = (out[0][i] as number) + (a[at] as number) * left;
      out[1][i] = (out[1][i] as number) + (b[at] as number) * right;
    }
  }
  return out;
}
