import { createRandom } from '../units';
import { createMeterMap, createSongMap, createTempoMap, formatBarPulse, formatClock } from './index';

describe('tempo map', () => {
  it('is inverse to 1 ns over ten hours (seed 11)', () => {
    const random = createRandom(11);
    const points = [{ quarters: -8, seconds: 0.5 }];
    while ((points.at(-1)?.seconds ?? 0) < 36_000) {
      const last = points.at(-1) as { quarters: number; seconds: number };
      points.push({
        quarters: last.quarters + 0.25 + random() * 8,
        seconds: last.seconds + 0.05 + random() * 6,
      });
    }
    const map = createTempoMap(points);
    for (let i = 0; i < 20_000; i++) {
      const seconds = random() * 36_010 - 5;
      expect(Math.abs(map.toSeconds(map.toQuarters(seconds)) - seconds)).toBeLessThan(1e-9);
    }
  });
  it('carries the outer tempi on beyond its ends', () => {
    const map = createTempoMap([
      { quarters: 0, seconds: 1 },
      { quarters: 2, seconds: 2 },
      { quarters: 3, seconds: 3 },
    ]);
    expect(map.toSeconds(-2)).toBe(0);
    expect(map.toQuarters(5)).toBe(5);
    expect(map.tempoAt(0)).toBe(120);
    expect(map.tempoAt(2.5)).toBe(60);
  });
  it('refuses what is no map', () => {
    expect(() => createTempoMap([{ quarters: 0, seconds: 0 }])).toThrow(RangeError);
    expect(() =>
      createTempoMap([
        { quarters: 0, seconds: 0 },
        { quarters: 1, seconds: 0 },
      ]),
    ).toThrow(RangeError);
    expect(() =>
      createTempoMap([
        { quarters: 0, seconds: 0 },
        { quarters: NaN, seconds: 1 },
      ]),
    ).toThrow(RangeError);
  });
});

describe('meter map', () => {
  it('knows where bar 37 is after a 2/4 bar and a 7/8 bar', () => {
    const meters = createMeterMap([
      { bar: 1, numerator: 4, denominator: 4 },
      { bar: 9, numerator: 2, denominator: 4 },
      { bar: 10, numerator: 4, denominator: 4 },
      { bar: 20, numerator: 7, denominator: 8 },
      { bar: 21, numerator: 4, denominator: 4 },
    ]);
    // 8·4 + 2 + 10·4 + 3.5 = 77.5 quarters before bar 21, sixteen bars more.
    expect(meters.barToQuarters(37)).toBe(77.5 + 64);
    expect(meters.toBar(77.5 + 64)).toEqual({ bar: 37, quartersInBar: 0 });
    expect(meters.toBar(76)).toEqual({ bar: 20, quartersInBar: 2 });
  });
  it('counts bars before the first downbeat down', () => {
    const meters = createMeterMap([{ bar: 1, numerator: 3, denominator: 4 }]);
    expect(meters.toBar(-1)).toEqual({ bar: 0, quartersInBar: 2 });
    expect(meters.barToQuarters(-1)).toBe(-6);
  });
  it('counts pulses: 6/8 has two', () => {
    const map = createSongMap(
      [
        { quarters: 0, seconds: 0 },
        { quarters: 3, seconds: 3 },
      ],
      [{ bar: 1, numerator: 6, denominator: 8 }],
    );
    expect(formatBarPulse(map, 1.6)).toBe('1.2');
    expect(formatBarPulse(map, 3.01)).toBe('2.1');
  });
  it('refuses impossible meters', () => {
    expect(() => createMeterMap([{ bar: 1, numerator: 0, denominator: 4 }])).toThrow(RangeError);
    expect(() => createMeterMap([{ bar: 1, numerator: 4, denominator: 5 }])).toThrow(RangeError);
    expect(() => createMeterMap([])).toThrow(RangeError);
  });
});

it('writes clock times', () => {
  expect(formatClock(98.2145)).toBe('1:38.215');
  expect(formatClock(59.9999)).toBe('1:00.000');
  expect(formatClock(61, 0)).toBe('1:01');
});
