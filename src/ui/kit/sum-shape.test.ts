import { sumShape } from './sum-shape';

/** So many entries of a square of this height, 1 = full scale. */
const square = (height: number, entries: number) => ({
  framesPerEntry: 480,
  sampleRateHz: 48_000,
  minMax: Int16Array.from(
    { length: 2 * entries },
    (_, i) => (i % 2 === 0 ? -1 : 1) * Math.round(height * 32_768) - (i % 2 === 0 || height < 1 ? 0 : 1),
  ),
});

it('equal sounds of different players add up by 3 dB, one alone keeps its height', () => {
  // 100 entries are a second; the second of the two begins half a second later.
  const shape = sumShape(
    [
      { peaks: square(0.25, 100), startSeconds: 0 },
      { peaks: square(0.25, 50), startSeconds: 0.5 },
    ],
    10,
    1,
  );
  expect([...shape.slice(0, 5)]).toEqual(Array.from({ length: 5 }, () => 0.25));
  for (const x of shape.slice(5)) expect(20 * Math.log10(x / 0.25)).toBeCloseTo(3.01, 2);
});
it('is nothing where nothing sounds, and before a song that begins before zero', () => {
  expect([...sumShape([{ peaks: square(0.5, 20), startSeconds: -0.1 }], 4, 0.4)]).toEqual([0.5, 0, 0, 0]);
  expect([...sumShape([], 2, 1)]).toEqual([0, 0]);
});
it('a column finer than the peaks shows the peak it lies in', () => {
  expect([...sumShape([{ peaks: square(0.5, 1), startSeconds: 0 }], 4, 0.02)]).toEqual([0.5, 0.5, 0, 0]);
});
