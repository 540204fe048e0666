/** Peak and energy of stretches of {@link CEILING_FRAMES} frames. */
export interface Stretches {
  readonly peaks: Float32Array;
  readonly rms: Float32Array;
}

/** Signs of a limiter or of heavy compression. */
export interface CeilingFacts {
  /** Of the fifths of a second with sound, how many reach within 0.3 dB of the highest peak: as a share 0–1, and as a number. */
  readonly share: number;
  readonly count: number;
  /** Spread of the level of those that do, dB (half of what their middle 70 % span): a steady tone, or one hit repeated, reaches its peak always with one level. */
  readonly spreadDb: number;
  /** Spread of their peaks, dB: a ceiling is met exactly, chance is not. */
  readonly tightDb: number;
  /** Highest peak over the mean level of the stretches with sound, dB. */
  readonly crestDb: number;
}

/** 11 ms at 48 kHz. */
export const CEILING_FRAMES = 512;
/** About a fifth of a second at 48 kHz: notes and hits, not their decay, decide its peak. */
const GROUP = 19;
/** Stretches whose level is taken with a peak: a twelfth of a second. */
const AFTER = 8;
const NEAR = 10 ** (-0.3 / 20);
/** Quieter than −12 dB of the peak is another way of playing. */
const PLAYED = 0.25;
const ACTIVE = 0.1;

/** How often a recording reaches its ceiling; null without sound. */
export function ceilingFacts({ peaks, rms }: Stretches): CeilingFacts | null {
  const top = peaks.reduce((m, p) => Math.max(m, p), 0);
  if (top <= 0) return null;
  let [active, energy] = [0, 0];
  for (let i = 0; i < peaks.length; i++) {
    if ((peaks[i] as number) < ACTIVE * top) continue;
    active++;
    energy += (rms[i] as number) ** 2;
  }
  let played = 0;
  const levels: number[] = [];
  const tops: number[] = [];
  for (let from = 0; from < peaks.length; from += GROUP) {
    let at = from;
    for (let i = from; i < Math.min(peaks.length, from + GROUP); i++)
      if ((peaks[i] as number) > (peaks[at] as number)) at = i;
    const peak = peaks[at] as number;
    if (peak < PLAYED * top) continue;
    played++;
    if (peak < NEAR * top) continue;
    levels.push(levelFrom(rms, at));
    tops.push(20 * Math.log10(peak));
  }
  return {
    share: tops.length / played,
    count: tops.length,
    spreadDb: spread(levels),
    tightDb: spread(tops),
    crestDb: 20 * Math.log10(top / Math.sqrt(energy / active)),
  };
}

/** Level of what stands around a peak and follows it, dB: of hits that repeat it is the same, wherever they fall among the stretches. */
function levelFrom(rms: Float32Array, at: number): number {
  let energy = 0;
  for (let i = Math.max(0, at - 1); i < Math.min(rms.length, at + AFTER); i++)
    energy += (rms[i] as number) ** 2;
  return 10 * Math.log10(Math.max(energy / AFTER, 1e-18));
}

/** Half of what the middle 70 % span: a few at the ends of the sound count for nothing. */
function spread(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.round(share * (sorted.length - 1))] as number;
  return (at(0.85) - at(0.15)) / 2;
}
