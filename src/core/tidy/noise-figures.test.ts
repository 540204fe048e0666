import { levelsOfSound, soundOf } from '../../../tests/support/tidy-sounds';
import { LEVEL_BANDS } from '../analysis';
import { activityOf, sharesOver } from './activity';
import { bandPowers, floorOf } from './floor';
import { bandRow, decibelsInPlace, smoothed } from './frame-math';
import { COUNTED_BANDS, SPREAD_DB, type Smoothing } from './noise-figures';

const levels = levelsOfSound(soundOf(120, (_, noise) => 0.01 * noise(), 91));
const powers = bandPowers(levels);
const means = Float64Array.from({ length: LEVEL_BANDS }, (_, b) => {
  const row = bandRow(powers, b);
  return row.reduce((sum, p) => sum + p, 0) / row.length;
});
const truth = Float32Array.from(powers, (_, k) => means[Math.floor(k / levels.frames)] as number);
const shares = sharesOver(powers, truth);

const spreadOf = (values: Float32Array): number => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
};

it('steady noise strays as the figures say', () => {
  for (const width of [1, 3, 9] as const satisfies readonly Smoothing[])
    for (let b = 0; b < LEVEL_BANDS; b++) {
      const row = width === 1 ? bandRow(shares, b).slice() : smoothed(bandRow(shares, b), width);
      decibelsInPlace(row);
      const ratio = spreadOf(row) / (SPREAD_DB[width][b] as number);
      expect({ width, b, isNear: ratio > 0.85 && ratio < 1.15 }).toEqual({ width, b, isNear: true });
    }
});

it('in noise alone the statistic lies around 0, spread by 1, and never opens', () => {
  const { raw, short, long } = activityOf(shares);
  for (const values of [raw, short, long]) {
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.25);
    expect(Math.abs(spreadOf(values) - 1)).toBeLessThan(0.2);
  }
  expect(short.reduce((m, v) => Math.max(m, v), 0)).toBeLessThan(6);
  expect(raw.reduce((m, v) => Math.max(m, v), 0)).toBeLessThan(8);
  expect(COUNTED_BANDS).toBe(4);
});

it('the floor of noise is found to half a dB in every band', () => {
  const found = floorOf(powers, new Uint8Array(levels.frames).fill(1));
  for (let b = 0; b < LEVEL_BANDS; b++)
    expect(Math.abs(10 * Math.log10((found[b] as number) / (means[b] as number)))).toBeLessThan(0.6);
});

it('the fast logarithm is one', () => {
  const values = Float32Array.from([1e-12, 1e-3, 0.5, 1, 1.999, 2, 1e6, 0]);
  const fast = values.slice();
  decibelsInPlace(fast);
  [...values].forEach((v, i) => {
    if (v > 0) expect(fast[i] as number).toBeCloseTo(10 * Math.log10(v), 2);
    else expect(fast[i] as number).toBeLessThan(-300);
  });
});
