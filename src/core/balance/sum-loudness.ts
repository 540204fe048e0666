/** A track in a sum. */
export interface SummedTrack {
  /** Of the track at 0 dB, LUFS; null = it has none. */
  readonly integratedLufs: number | null;
  readonly gainDb: number;
}

/**
 * How loud tracks are together, LUFS: as if none had anything in common with another and all sounded all the time; null for
 * silence. Sparse tracks make it too loud by a dB or two: `integratedLufs` leaves out the silence of each, the sum has it.
 */
export function loudnessOfSum(tracks: readonly SummedTrack[]): number | null {
  const power = tracks.reduce(
    (sum, { integratedLufs, gainDb }) =>
      integratedLufs === null ? sum : sum + 10 ** ((integratedLufs + gainDb) / 10),
    0,
  );
  return power > 0 ? 10 * Math.log10(power) : null;
}
