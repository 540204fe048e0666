/**
 * What steady noise looks like in 24 bands: measured on 16 minutes of white noise at 44.1 and 48 kHz (`noise-figures.test.ts`
 * measures it again). Bands of the low end hold few independent values in 20 ms, so they stray more.
 */

/** By how much `floorOf` comes out low in each band before it is put right, dB. */
export const FLOOR_BIAS_DB = [
  -2.03, -2.06, -1.95, -2.2, -2.24, -1.13, -0.91, -0.65, -0.48, -0.16, -0.07, -0.02, 0, 0, 0, 0, 0, 0, 0, 0,
  0, 0, 0, 0,
] as const;

/** Means over so many frames that are looked at. */
export type Smoothing = 1 | 3 | 9;

/** Standard deviation of the level of a band, dB. */
export const SPREAD_DB: Readonly<Record<Smoothing, readonly number[]>> = {
  1: [
    5.57, 5.57, 5.57, 5.61, 5.56, 3.96, 3.64, 3.34, 3.14, 2.65, 2.45, 2.2, 1.87, 1.71, 1.47, 1.31, 1.17, 1.03,
    0.91, 0.81, 0.72, 0.64, 0.56, 0.5,
  ],
  3: [
    2.82, 2.81, 2.79, 2.81, 2.79, 2.29, 2.13, 1.98, 1.87, 1.58, 1.47, 1.33, 1.13, 1.04, 0.9, 0.8, 0.71, 0.62,
    0.55, 0.49, 0.44, 0.39, 0.34, 0.3,
  ],
  9: [
    1.55, 1.55, 1.53, 1.56, 1.54, 1.32, 1.23, 1.14, 1.08, 0.92, 0.85, 0.76, 0.66, 0.6, 0.53, 0.47, 0.42, 0.36,
    0.32, 0.29, 0.26, 0.23, 0.2, 0.18,
  ],
};

/** Bands whose excess counts: the largest. */
export const COUNTED_BANDS = 4;

/** Mean and standard deviation of the mean of the largest excesses, each in the spread of its band. */
export const STATISTIC: Readonly<Record<Smoothing, { readonly mean: number; readonly spread: number }>> = {
  1: { mean: 1.099, spread: 0.29 },
  3: { mean: 1.213, spread: 0.305 },
  9: { mean: 1.297, spread: 0.323 },
};
