import { createRandom } from '../units';
import { createSongMap } from '../time';
import { deviationsOf, timingOf } from './index';

const map = createSongMap(
  [
    { quarters: 0, seconds: 1 },
    { quarters: 100, seconds: 51 },
  ],
  [{ bar: 1, numerator: 4, denominator: 4 }],
);

it('says how late each hit is against pulses or their parts, by hand', () => {
  // Pulses at 1, 1.5, 2 …; 1.26 belongs to the half pulse at 1.25 or, against pulses alone, to nothing.
  expect(
    deviationsOf(map, [1.01, 1.26, 1.49, 2.0], 1).map((d) => [d.seconds, Number(d.late.toFixed(6))]),
  ).toEqual([
    [1.01, 0.01],
    [1.49, -0.01],
    [2, 0],
  ]);
  expect(deviationsOf(map, [1.01, 1.26], 2).map((d) => Number(d.late.toFixed(6)))).toEqual([0.01, 0.01]);
  expect(deviationsOf(map, [0.49, 0.98], 1).map((d) => Number(d.late.toFixed(6)))).toEqual([-0.01, -0.02]);
  expect(deviationsOf(map, [], 2)).toEqual([]);
});
it('follows the pulses of 6/8 and of uneven bars', () => {
  const six = createSongMap(
    [
      { quarters: 0, seconds: 0 },
      { quarters: 30, seconds: 30 },
    ],
    [{ bar: 1, numerator: 6, denominator: 8 }],
  );
  expect(deviationsOf(six, [1.52], 1).map((d) => Number(d.late.toFixed(6)))).toEqual([0.02]);
  const seven = createSongMap(
    [
      { quarters: 0, seconds: 0 },
      { quarters: 35, seconds: 35 },
    ],
    [{ bar: 1, numerator: 7, denominator: 8, groups: [2, 2, 3] }],
  );
  expect(deviationsOf(seven, [1.02, 2.02, 3.49], 1).map((d) => Number(d.late.toFixed(6)))).toEqual([
    0.02, 0.02, -0.01,
  ]);
});
it('finds back how a made player leans and spreads (seed 5)', () => {
  const random = createRandom(5);
  const hits = Array.from(
    { length: 190 },
    (_, i) =>
      1 +
      i * 0.25 +
      0.012 +
      0.008 * Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random()),
  ).sort((a, b) => a - b);
  const timing = timingOf(deviationsOf(map, hits, 2));
  expect(timing?.hits).toBeGreaterThan(185);
  expect(Math.abs((timing?.late ?? 0) - 0.012)).toBeLessThan(0.002);
  expect(Math.abs((timing?.spread ?? 0) - 0.008)).toBeLessThan(0.002);
  expect(timingOf([])).toBeNull();
});
