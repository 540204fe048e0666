/** Linear gain of a level in dB. */
export const dbToGain = (db: number): number => 10 ** (db / 20);

/** Level in dB of a linear gain; −Infinity for 0. */
export const gainToDb = (gain: number): number => 20 * Math.log10(Math.abs(gain));

/** `value` rounded to `decimals` places. */
export function roundTo(value: number, decimals: number): number {
  const scale = 10 ** decimals;
  return Math.round(value * scale) / scale;
}
