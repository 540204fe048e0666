import { createSongMap } from '../time';
import { swingOf } from './index';

/** 120 a minute from 1 s on. */
const map = createSongMap(
  [
    { quarters: 0, seconds: 1 },
    { quarters: 200, seconds: 101 },
  ],
  [{ bar: 1, numerator: 4, denominator: 4 }],
);

it('worked by hand: straight is 1 : 1, triplets 2 : 1, 60 % 1.5 : 1', () => {
  for (const [share, ratio] of [
    [0.5, 1],
    [2 / 3, 2],
    [0.6, 1.5],
  ] as const) {
    const hits = Array.from({ length: 40 }, (_, k) => [1 + 0.5 * k, 1 + 0.5 * (k + share)]).flat();
    const swing = swingOf(map, hits, 1);
    expect(swing?.share).toBeCloseTo(share, 9);
    expect(swing?.ratio).toBeCloseTo(ratio, 9);
    expect(swing?.hits).toBe(40);
  }
});
it('sixteenths swing within halves of the pulse', () => {
  const hits = Array.from({ length: 80 }, (_, k) => [1 + 0.25 * k, 1 + 0.25 * (k + 0.58)]).flat();
  expect(swingOf(map, hits, 2)?.share).toBeCloseTo(0.58, 9);
});
it('says nothing of a part without off-beats, or with too few', () => {
  expect(
    swingOf(
      map,
      Array.from({ length: 60 }, (_, k) => 1 + 0.5 * k),
      1,
    ),
  ).toBeNull();
  expect(swingOf(map, [1.25, 1.75], 1)).toBeNull();
});
