import { BandLevelAnalysis, type BandLevels } from '@/core/analysis';
import { createRandom } from '@/core/units';

export const TIDY_RATE = 48_000;

/** A sound by its value at each second; `noise` gives steady noise of RMS 1. */
export function soundOf(
  seconds: number,
  value: (t: number, noise: () => number) => number,
  seed = 5,
): Float32Array {
  const random = createRandom(seed);
  const noise = (): number => {
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += random();
    return sum;
  };
  return Float32Array.from({ length: Math.round(seconds * TIDY_RATE) }, (_, i) =>
    value(i / TIDY_RATE, noise),
  );
}

export const sine = (hz: number, t: number): number => Math.sin(2 * Math.PI * hz * t);

/** A held chord of level 1. */
export const chord = (t: number): number =>
  (sine(196, t) + sine(247, t) + sine(294, t) + 0.3 * sine(588, t)) / 4;

/** A struck sound that begins at 0 and has died away by 60 dB after `t60` seconds. */
export const struck = (t: number, hz: number, t60: number): number =>
  t < 0 ? 0 : Math.min(1, t / 0.001) * Math.exp((-6.9 * t) / t60) * (sine(hz, t) + 0.5 * sine(2.01 * hz, t));

export function levelsOfSound(...channels: Float32Array[]): BandLevels {
  const analysis = new BandLevelAnalysis(TIDY_RATE, channels.length);
  analysis.push(channels);
  return analysis.finish();
}
