import { createRandom } from '../units';
import {
  copyTempi,
  createTempoMap,
  fewestPoints,
  moveGrid,
  movePoint,
  oneTempo,
  pointsAtBars,
  removePoints,
  scaleTempo,
  setPointTempo,
  setRamp,
  shiftPoint,
  type SongMapFile,
  splitAt,
  type TempoPoint,
} from './index';

const file = (points: readonly TempoPoint[]): SongMapFile => ({
  schemaVersion: 1,
  points,
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
});
/** 120 for two bars, 60 for one, then 100. */
const written = file([
  { quarters: 0, seconds: 1 },
  { quarters: 8, seconds: 5 },
  { quarters: 12, seconds: 9 },
  { quarters: 22, seconds: 15 },
]);
const mapOf = (f: SongMapFile) => createTempoMap(f.points);

describe('ramps, by hand', () => {
  // From 120 to 60 over 8 quarters: ∫ dq / b = 8 · ln(1/2) / (1 − 2) quarters a second = 8 ln 2 = 5.545177 s (instead of 4).
  const ramped = setRamp(written, 0, true, 'tempi');
  const map = mapOf(ramped);
  it('take the time of the integral, and what follows comes later', () => {
    expect(map.toSeconds(8)).toBeCloseTo(1 + 8 * Math.LN2, 9);
    expect(map.toSeconds(12)).toBeCloseTo(5 + 8 * Math.LN2, 9);
    expect([map.tempoAt(0), map.tempoAt(4), map.tempoAt(8)].map((x) => Number(x.toFixed(9)))).toEqual([
      120, 90, 60,
    ]);
    // Half of the quarters: 8 · ln(4/3) = 2.301457 s.
    expect(map.toSeconds(4)).toBeCloseTo(1 + 8 * Math.log(4 / 3), 9);
  });
  it('are bent by a point inside, which changes nothing at first', () => {
    const bent = splitAt(ramped, 2);
    expect(bent.points.map((p) => p.quarters)).toEqual([0, 2, 8, 12, 22]);
    for (let q = -2; q < 24; q += 0.37) expect(mapOf(bent).toSeconds(q)).toBeCloseTo(map.toSeconds(q), 9);
    const lower = mapOf(setPointTempo(bent, 1, 70));
    expect([lower.tempoAt(0), lower.tempoAt(2), lower.tempoAt(8)].map((x) => Number(x.toFixed(6)))).toEqual([
      120, 70, 60,
    ]);
    expect(lower.toSeconds(2)).toBeCloseTo(1 + (120 * Math.log(7 / 12)) / (70 - 120), 9);
  });
  it('go back to a jump', () => {
    expect(mapOf(setRamp(ramped, 0, false, 'tempi')).toSeconds(22)).toBeCloseTo(15, 9);
  });
  it('can leave all moments where they are: then they begin with another tempo', () => {
    // 8 quarters in 4 s are 120 on the whole; to end at 60 it begins at b with 8 · ln(60/b) / (60 − b) minutes = 4 s, b = 210.8 (by trial, by hand).
    const kept = setRamp(written, 0, true, 'moments');
    expect(kept.points.map((p) => p.seconds)).toEqual(written.points.map((p) => p.seconds));
    const { tempoAt } = mapOf(kept);
    expect(tempoAt(0) * (kept.points[0]?.ramp ?? 0)).toBeCloseTo(60, 6);
    expect(tempoAt(0)).toBeCloseTo(210.8, 0);
    expect((60 * 8 * Math.log(60 / tempoAt(0))) / (60 - tempoAt(0))).toBeCloseTo(4, 6);
    expect([tempoAt(8), tempoAt(12)].map((x) => Number(x.toFixed(6)))).toEqual([60, 100]);
    expect(setRamp(kept, 0, false, 'moments')).toEqual(written);
    // 8 quarters in 0.5 s cannot come down evenly to 60.
    expect(() =>
      setRamp(
        file([
          { quarters: 0, seconds: 0 },
          { quarters: 8, seconds: 0.5 },
          { quarters: 12, seconds: 4.5 },
        ]),
        0,
        true,
        'moments',
      ),
    ).toThrow('too far away');
  });
  it('are straight lines between corners, to 0.2 ms', () => {
    const straight = createTempoMap(
      map.corners().map((quarters) => ({ quarters, seconds: map.toSeconds(quarters) })),
    );
    for (let q = 0; q <= 22; q += 0.0137)
      expect(Math.abs(straight.toSeconds(q) - map.toSeconds(q))).toBeLessThan(0.0002);
    expect(map.corners().length).toBeLessThan(100);
  });
});

describe('a change at another place, by hand', () => {
  it('keeps the tempi on both sides, and what follows comes earlier or later', () => {
    // 120 up to quarter 10 instead of 8: 5 s; 60 for the two left: 2 s; so the third point comes a second earlier than 9 s.
    const later = shiftPoint(written, 1, 10);
    expect(later.points.map((p) => [p.quarters, Number(p.seconds.toFixed(9))])).toEqual([
      [0, 1],
      [10, 6],
      [12, 8],
      [22, 14],
    ]);
    expect([0, 9, 11, 13].map((q) => Number(mapOf(later).tempoAt(q).toFixed(9)))).toEqual([
      120, 120, 60, 100,
    ]);
  });
  it('keeps a ramp’s ends', () => {
    // The ramp 120 to 60 over 4 quarters takes 4 ln 2 s; then 60 for 8 quarters, 8 s.
    const short = mapOf(shiftPoint(setRamp(written, 0, true, 'tempi'), 1, 4));
    expect([short.tempoAt(0), short.tempoAt(4)].map((x) => Number(x.toFixed(9)))).toEqual([120, 60]);
    expect(short.toSeconds(4)).toBeCloseTo(1 + 4 * Math.LN2, 9);
    expect(short.toSeconds(12)).toBeCloseTo(1 + 4 * Math.LN2 + 8, 9);
  });
  it('cannot pass its neighbours, and the ends stay', () => {
    for (const [i, q] of [
      [1, 0],
      [1, 12],
      [1, 13],
      [0, 2],
      [3, 20],
      [9, 1],
    ] as const)
      expect(() => shiftPoint(written, i, q)).toThrow(RangeError);
  });
});

it('another map’s tempi hold within a stretch, what follows comes earlier or later; by hand', () => {
  // Quarters 4 to 10 at 240 instead of 120 and 60: 1.5 s instead of 2 + 2 s.
  const fast = file([
    { quarters: 0, seconds: 7 },
    { quarters: 100, seconds: 32 },
  ]);
  const made = mapOf(copyTempi(written, fast, 4, 10));
  expect([0, 4, 10, 12, 22].map((q) => Number(made.toSeconds(q).toFixed(9)))).toEqual([1, 3, 4.5, 6.5, 12.5]);
  expect([2, 5, 11, 13].map((q) => Number(made.tempoAt(q).toFixed(9)))).toEqual([120, 240, 60, 100]);
  // Its ramps come along: 120 to 60 over 8 quarters take 8 ln 2 s, the first four of them 8 ln(4/3).
  const ramped = mapOf(copyTempi(fast, setRamp(written, 0, true, 'tempi'), 0, 4));
  expect(ramped.toSeconds(4)).toBeCloseTo(7 + 8 * Math.log(4 / 3), 9);
  expect(
    [ramped.tempoAt(0), ramped.tempoAt(4 - 1e-9), ramped.tempoAt(4)].map((x) => Number(x.toFixed(3))),
  ).toEqual([120, 90, 240]);
  expect(() => copyTempi(written, fast, 4, 4)).toThrow(RangeError);
});

it('as few ramps as stay within a tolerance: a ritardando is one, and they are fewer than steps (seed 17)', () => {
  // 120 going evenly to 80 over 32 quarters after 16 at 120, read off at every quarter.
  const slowing = createTempoMap([
    { quarters: 0, seconds: 0 },
    { quarters: 16, seconds: 8, ramp: 2 / 3 },
    { quarters: 48, seconds: 8 + (32 * 60 * Math.log(80 / 120)) / (80 - 120) },
  ]);
  const played = file(
    Array.from({ length: 49 }, (_, quarters) => ({ quarters, seconds: slowing.toSeconds(quarters) })),
  );
  expect(fewestPoints(played, 0.005, true).points.length).toBeLessThanOrEqual(5);
  expect(fewestPoints(played, 0.005).points.length).toBeGreaterThan(6);
  const random = createRandom(17);
  let seconds = 0;
  const wandering = file(
    Array.from({ length: 300 }, (_, quarters) => ({
      quarters,
      seconds: (seconds += 0.5 + 0.04 * Math.sin(quarters / 17) + 0.003 * random()),
    })),
  );
  for (const tolerance of [0.002, 0.005, 0.02]) {
    const few = fewestPoints(wandering, tolerance, true);
    for (const p of wandering.points)
      expect(Math.abs(mapOf(few).toSeconds(p.quarters) - p.seconds)).toBeLessThanOrEqual(tolerance + 1e-9);
    expect(few.points.length).toBeLessThanOrEqual(fewestPoints(wandering, tolerance).points.length);
  }
});

it('maps with ramps are inverse to 1 ns over ten hours (seed 12)', () => {
  const random = createRandom(12);
  const points: TempoPoint[] = [{ quarters: -8, seconds: 0.5, ramp: 2 }];
  while ((points.at(-1)?.seconds ?? 0) < 36_000) {
    const last = points.at(-1) as TempoPoint;
    points.push({
      quarters: last.quarters + 0.25 + random() * 8,
      seconds: last.seconds + 0.05 + random() * 6,
      ...(random() < 0.6 ? { ramp: 0.3 + 2 * random() } : {}),
    });
  }
  const map = createTempoMap(points);
  let before = -Infinity;
  for (let i = 0; i < 20_000; i++) {
    const seconds = random() * 36_010 - 5;
    expect(Math.abs(map.toSeconds(map.toQuarters(seconds)) - seconds)).toBeLessThan(1e-9);
  }
  for (let q = -10; q < 40; q += 0.01) {
    expect(map.toSeconds(q)).toBeGreaterThan(before);
    before = map.toSeconds(q);
  }
});

it('values, moments and stretches are changed, and what follows comes along', () => {
  expect(setPointTempo(written, 1, 120).points.map((p) => p.seconds)).toEqual([1, 5, 7, 13]);
  expect(movePoint(written, 1, 4.5).points.map((p) => p.seconds)).toEqual([1, 4.5, 9, 15]);
  expect(scaleTempo(written, 4, 8, 2).points.map((p) => p.seconds)).toEqual([1, 3, 4, 8, 14]);
  expect(removePoints(written, 8, 12).points.map((p) => p.quarters)).toEqual([0, 22]);
  expect(mapOf(oneTempo(written, 100)).toSeconds(50)).toBeCloseTo(31, 9);
  expect(moveGrid(written, -0.25).points[0]?.seconds).toBe(0.75);
});
it('what no map can be is refused in words', () => {
  expect(() => movePoint(written, 1, 9.5)).toThrow('does not come after');
  expect(() => movePoint(written, 9, 1)).toThrow('there is no point 9');
  expect(() => setPointTempo(written, 0, 0)).toThrow('above 0');
  expect(() => setRamp(written, 2, true, 'tempi')).toThrow('no other tempo');
  expect(() => removePoints(written, 0, 12)).toThrow('two points must stay');
  expect(() =>
    createTempoMap([
      { quarters: 0, seconds: 0, ramp: 0 },
      { quarters: 1, seconds: 1 },
    ]),
  ).toThrow('impossible');
});

describe('as few points as keep the pulses', () => {
  const made = (seed: number, count: number, wander: number): SongMapFile => {
    const random = createRandom(seed);
    const points = [{ quarters: 0, seconds: 2 }];
    for (let q = 1; q < count; q++)
      points.push({
        quarters: q,
        seconds: (points.at(-1) as TempoPoint).seconds + 0.5 + wander * (random() - 0.5),
      });
    return file(points);
  };
  /** The plain way: every choice of points, fewest first. */
  function plain(f: SongMapFile, tolerance: number): number {
    const n = f.points.length;
    let best = n;
    for (let mask = 0; mask < 1 << (n - 2); mask++) {
      const kept = f.points.filter((_, i) => i === 0 || i === n - 1 || (mask >> (i - 1)) & 1);
      if (kept.length >= best) continue;
      const map = createTempoMap(kept);
      if (f.points.every((p) => Math.abs(map.toSeconds(p.quarters) - p.seconds) <= tolerance + 1e-12))
        best = kept.length;
    }
    return best;
  }
  it('stay within the tolerance and are no more than needed (seeds 1–30)', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const f = made(seed, 11, 0.03);
      const few = fewestPoints(f, 0.005);
      f.points.forEach((p) =>
        expect(Math.abs(mapOf(few).toSeconds(p.quarters) - p.seconds)).toBeLessThan(0.005 + 1e-9),
      );
      expect(few.points.length).toBe(plain(f, 0.005));
    }
  });
  it('a steady song needs two, a jump one more', () => {
    expect(fewestPoints(made(1, 600, 0), 0.005).points.length).toBe(2);
    expect(
      fewestPoints(
        file([
          ...made(1, 300, 0).points,
          ...made(1, 300, 0).points.map((p) => ({
            quarters: p.quarters + 300,
            seconds: p.quarters * 0.6 + 152,
          })),
        ]),
        0.001,
      ).points.length,
    ).toBe(3);
  });
  it('or those at bar lines only', () => {
    expect(pointsAtBars(made(2, 18, 0.02)).points.map((p) => p.quarters)).toEqual([0, 4, 8, 12, 16, 17]);
  });
});
