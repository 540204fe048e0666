import { createRandom } from '../units';
import {
  createMeterMap,
  createTempoMap,
  formatBarPulse,
  pulseLengths,
  pulseQuarters,
  type Meter,
} from './index';

const map = createMeterMap([
  { bar: 1, numerator: 4, denominator: 4 },
  { bar: 5, numerator: 2, denominator: 4 },
  { bar: 6, numerator: 7, denominator: 8 },
  { bar: 8, numerator: 6, denominator: 8 },
]);

it('counts quarters over changing bars', () => {
  expect([1, 2, 5, 6, 7, 8, 9].map((bar) => map.barToQuarters(bar))).toEqual([0, 4, 16, 18, 21.5, 25, 28]);
});

it('answers where a place lies', () => {
  expect(map.toBar(0)).toEqual({ bar: 1, quartersInBar: 0 });
  expect(map.toBar(17.5)).toEqual({ bar: 5, quartersInBar: 1.5 });
  expect(map.toBar(18)).toEqual({ bar: 6, quartersInBar: 0 });
  expect(map.toBar(25 - 1e-12).bar).toBe(8);
  expect(map.toBar(-4)).toEqual({ bar: 0, quartersInBar: 0 });
});

it('knows the meter of any bar, before the first too', () => {
  expect(map.meterAt(-3).numerator).toBe(4);
  expect(map.meterAt(5).numerator).toBe(2);
  expect(map.meterAt(7)).toMatchObject({ numerator: 7, denominator: 8 });
  expect(map.meterAt(999)).toMatchObject({ numerator: 6, denominator: 8 });
});

it('feels dotted quarters in 6/8, 9/8 and 12/8, quarters elsewhere (common practice, no source)', () => {
  const pulse = (numerator: number, denominator: number): number =>
    pulseQuarters({ bar: 1, numerator, denominator });
  expect([pulse(6, 8), pulse(9, 8), pulse(12, 8)]).toEqual([1.5, 1.5, 1.5]);
  expect([pulse(4, 4), pulse(3, 4), pulse(2, 2)]).toEqual([1, 1, 1]);
});

it('bars and quarters lead back to each other (seed 9)', () => {
  const random = createRandom(9);
  for (let round = 0; round < 100; round++) {
    const meters: Meter[] = [];
    let bar = 1;
    for (let i = 0; i < 6; i++) {
      meters.push({
        bar,
        numerator: 1 + Math.floor(random() * 12),
        denominator: [2, 4, 8, 16][Math.floor(random() * 4)] as number,
      });
      bar += 1 + Math.floor(random() * 5);
    }
    const made = createMeterMap(meters);
    for (let b = -2; b < bar + 5; b++) {
      expect(made.toBar(made.barToQuarters(b))).toEqual({
        bar: b,
        quartersInBar: expect.closeTo(0, 6) as number,
      });
      expect(made.barToQuarters(b + 1)).toBeGreaterThan(made.barToQuarters(b));
    }
  }
});

it('refuses what cannot be', () => {
  expect(() => createMeterMap([])).toThrow(RangeError);
  expect(() => createMeterMap([{ bar: 1, numerator: 0, denominator: 4 }])).toThrow(RangeError);
  expect(() => createMeterMap([{ bar: 1, numerator: 4, denominator: 5 }])).toThrow(RangeError);
  expect(() =>
    createMeterMap([
      { bar: 2, numerator: 4, denominator: 4 },
      { bar: 2, numerator: 3, denominator: 4 },
    ]),
  ).toThrow(RangeError);
});

it('knows the pulses of a bar: dotted quarters, uneven groups, quarters (worked by hand)', () => {
  const pulses = (numerator: number, denominator: number, groups?: readonly number[]) =>
    pulseLengths({ bar: 1, numerator, denominator, ...(groups ? { groups } : {}) });
  expect(pulses(4, 4)).toEqual([1, 1, 1, 1]);
  expect(pulses(6, 8)).toEqual([1.5, 1.5]);
  expect(pulses(12, 8)).toEqual([1.5, 1.5, 1.5, 1.5]);
  expect(pulses(7, 8)).toEqual([1, 1, 1.5]);
  expect(pulses(7, 8, [3, 2, 2])).toEqual([1.5, 1, 1]);
  expect(pulses(5, 8)).toEqual([1.5, 1]);
  expect(pulses(2, 2)).toEqual([1, 1, 1, 1]);
  expect(pulses(5, 16)).toEqual([1, 0.25]);
  expect(pulses(3, 8)).toEqual([1.5]);
  expect(pulses(1, 8)).toEqual([0.5]);
  const map = createMeterMap([
    { bar: 1, numerator: 7, denominator: 8, groups: [3, 2, 2] },
    { bar: 3, numerator: 4, denominator: 4 },
  ]);
  expect(map.pulsesIn(2)).toEqual([3.5, 5, 6]);
  expect(map.pulsesIn(3)).toEqual([7, 8, 9, 10]);
  expect(() => createMeterMap([{ bar: 1, numerator: 7, denominator: 8, groups: [3, 3] }])).toThrow(
    RangeError,
  );
});

it('calls bars by the number the first is given, pickups below it', () => {
  const map = createMeterMap([
    { bar: 1, numerator: 4, denominator: 4, number: 5 },
    { bar: 9, numerator: 3, denominator: 4 },
  ]);
  expect([-1, 0, 1, 2, 9].map(map.numberOf)).toEqual([3, 4, 5, 6, 13]);
  expect(createMeterMap([{ bar: 1, numerator: 4, denominator: 4 }]).numberOf(0)).toBe(0);
  expect(
    formatBarPulse(
      {
        tempo: createTempoMap([
          { quarters: 0, seconds: 0 },
          { quarters: 1, seconds: 0.5 },
        ]),
        meters: map,
      },
      2.5,
    ),
  ).toBe('6.2');
  expect(() => createMeterMap([{ bar: 1, numerator: 4, denominator: 4, number: 1.5 }])).toThrow(RangeError);
  expect(() =>
    createMeterMap([
      { bar: 1, numerator: 4, denominator: 4 },
      { bar: 3, numerator: 4, denominator: 4, number: 9 },
    ]),
  ).toThrow(RangeError);
});

it('pulses of any meter fill its bar', () => {
  for (const denominator of [1, 2, 4, 8, 16, 32])
    for (let numerator = 1; numerator <= 32; numerator++)
      expect(pulseLengths({ bar: 1, numerator, denominator }).reduce((a, q) => a + q, 0)).toBeCloseTo(
        (numerator * 4) / denominator,
        9,
      );
});
