import { createRandom } from '../units';
import { createMeterMap } from './meter-map';
import { snapPlaces, snapQuarters, type SnapGrid } from './snap';

const meters = createMeterMap([
  { bar: 1, numerator: 4, denominator: 4 },
  { bar: 3, numerator: 7, denominator: 8 },
]);
const notes = (
  value: 2 | 4 | 8 | 16 | 32,
  feel: 'straight' | 'dotted' | 'triplet' | 'swing',
  ratio?: number,
): Exclude<SnapGrid, { to: 'none' }> => ({ to: 'notes', value, feel, ...(ratio ? { ratio } : {}) });
const rounded = (list: readonly number[]): number[] => list.map((q) => Number(q.toFixed(6)));

it('lays notes out from the bar line (note values worked by hand)', () => {
  expect(rounded(snapPlaces(meters, 1, { to: 'bar' }))).toEqual([0, 4]);
  expect(rounded(snapPlaces(meters, 3, { to: 'pulse' }))).toEqual([8, 9, 10, 11.5]);
  expect(rounded(snapPlaces(meters, 1, notes(8, 'straight')))).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4]);
  // Dotted eighths: 3/4 of a quarter; the sixth is cut short by the bar line.
  expect(rounded(snapPlaces(meters, 1, notes(8, 'dotted')))).toEqual([0, 0.75, 1.5, 2.25, 3, 3.75, 4]);
  expect(rounded(snapPlaces(meters, 1, notes(8, 'triplet')))).toEqual(
    [0, 1 / 3, 2 / 3, 1, 4 / 3, 5 / 3, 2, 7 / 3, 8 / 3, 3, 10 / 3, 11 / 3, 4].map((x) =>
      Number(x.toFixed(6)),
    ),
  );
  // Swung eighths 2 : 1 are the first and third of triplets; 3 : 1 leaves a sixteenth.
  expect(rounded(snapPlaces(meters, 1, notes(8, 'swing')))).toEqual(
    [0, 2 / 3, 1, 5 / 3, 2, 8 / 3, 3, 11 / 3, 4].map((x) => Number(x.toFixed(6))),
  );
  expect(rounded(snapPlaces(meters, 1, notes(16, 'swing', 3)).slice(0, 4))).toEqual([0, 0.375, 0.5, 0.875]);
  expect(rounded(snapPlaces(meters, 3, notes(4, 'straight')))).toEqual([8, 9, 10, 11, 11.5]);
  expect(() => snapPlaces(meters, 1, notes(8, 'swing', 0.5))).toThrow(RangeError);
});

it('takes the nearest place, across bar lines, before the first bar, or none', () => {
  expect(snapQuarters(meters, 3.9, { to: 'bar' })).toBe(4);
  expect(snapQuarters(meters, -0.6, { to: 'pulse' })).toBe(-1);
  expect(snapQuarters(meters, 1.234, { to: 'none' })).toBe(1.234);
  const random = createRandom(5);
  for (let i = 0; i < 500; i++) {
    const q = 30 * random() - 6;
    const grid = notes(
      ([4, 8, 16, 32] as const)[Math.floor(4 * random())] as 4,
      (['straight', 'dotted', 'triplet', 'swing'] as const)[Math.floor(4 * random())] as 'swing',
      1 + 2 * random(),
    );
    const every = Array.from({ length: 16 }, (_, b) => snapPlaces(meters, b - 4, grid)).flat();
    expect(Math.abs(snapQuarters(meters, q, grid) - q)).toBeCloseTo(
      Math.min(...every.map((x) => Math.abs(x - q))),
      9,
    );
  }
});
