import { createRandom } from '../units';
import { distanceOf, framesOfDistance } from './distances';
import { createSongMap } from './song-map';

const RATE = 48_000;
/** 120 quarters a minute from a second in; from bar 5 on 60. */
const slowing = createSongMap(
  [
    { quarters: 0, seconds: 1 },
    { quarters: 16, seconds: 9 },
    { quarters: 32, seconds: 25 },
  ],
  [{ bar: 1, numerator: 4, denominator: 4 }],
);

it('counts a bar by the tempo where it lies', () => {
  const bar = (fromSeconds: number, bars: number): number =>
    framesOfDistance({ map: slowing, fromSeconds, rateHz: RATE }, 'bars', bars);
  // 4 quarters at 120 a minute: 2 s; at 60: 4 s. Half of each where the tempo changes between.
  expect([bar(1, 1), bar(9, 1), bar(8, 1), bar(9, -1), bar(1, -1)]).toEqual([
    2 * RATE,
    4 * RATE,
    3 * RATE,
    -2 * RATE,
    -2 * RATE,
  ]);
  expect(distanceOf({ map: slowing, fromSeconds: 8, rateHz: RATE }, 3 * RATE)).toEqual({
    bars: expect.closeTo(1, 9),
    pulses: expect.closeTo(4, 9),
    seconds: 3,
    frames: 3 * RATE,
  });
});

it('counts pulses as the meter has them, over a change of meter', () => {
  // A bar of 6/8 (two dotted quarters), then 7/8 as 2 + 2 + 3, at 120 quarters a minute.
  const map = createSongMap(
    [
      { quarters: 0, seconds: 0 },
      { quarters: 20, seconds: 10 },
    ],
    [
      { bar: 1, numerator: 6, denominator: 8 },
      { bar: 2, numerator: 7, denominator: 8 },
    ],
  );
  const origin = { map, fromSeconds: 0, rateHz: RATE };
  const seconds = [1, 2, 3, 4, 5].map((p) => framesOfDistance(origin, 'pulses', p) / RATE);
  expect(seconds).toEqual([0.75, 1.5, 2, 2.5, 3.25]);
  expect(distanceOf(origin, 2.25 * RATE).pulses).toBeCloseTo(3.5, 9);
  expect(framesOfDistance({ ...origin, fromSeconds: 3.25 }, 'pulses', -4) / RATE).toBe(-2.5);
});

it('has no bars without a map', () => {
  const origin = { map: null, fromSeconds: 3, rateHz: RATE };
  expect(distanceOf(origin, -24_000)).toEqual({ bars: null, pulses: null, seconds: -0.5, frames: -24_000 });
  expect([framesOfDistance(origin, 'bars', 2), framesOfDistance(origin, 'seconds', 0.1)]).toEqual([0, 4800]);
});

it('comes back to the frame from every unit, whatever the map', () => {
  const random = createRandom(2207);
  for (let round = 0; round < 200; round++) {
    const points = [{ quarters: 0, seconds: random() }];
    for (let i = 1; i < 12; i++)
      points.push({ quarters: 4 * i, seconds: (points[i - 1]?.seconds ?? 0) + 1 + 3 * random() });
    const map = createSongMap(points, [
      { bar: 1, numerator: 2 + Math.floor(6 * random()), denominator: random() < 0.5 ? 4 : 8 },
      { bar: 4, numerator: 3 + Math.floor(9 * random()), denominator: random() < 0.5 ? 4 : 8 },
    ]);
    const origin = { map, fromSeconds: 40 * random() - 5, rateHz: RATE };
    const frames = Math.round((random() - 0.5) * 40 * RATE);
    const { bars, pulses, seconds } = distanceOf(origin, frames);
    const back = [
      framesOfDistance(origin, 'bars', bars ?? NaN),
      framesOfDistance(origin, 'pulses', pulses ?? NaN),
      framesOfDistance(origin, 'seconds', seconds),
    ];
    for (const f of back) expect(Math.abs(f - frames)).toBeLessThanOrEqual(1);
  }
});
