import type { TempoReading } from '@/core/tempo';
import { doubtfulPlaces, gridLines, tempoCurve, tempoModel } from './tempo-model';

const reading: TempoReading = {
  beats: Array.from({ length: 16 }, (_, i) => 1 + i * 0.5),
  confidence: Array.from({ length: 16 }, (_, i) => (i === 9 ? 0.3 : 0.9)),
  firstDownbeat: 1, meters: [{ bar: 1, numerator: 4, denominator: 4 }, { bar: 2, numerator: 2, denominator: 4 }, { bar: 3, numerator: 4, denominator: 4 }], steady: false, bpm: null, gridOffsetSeconds: null, timekeepers: [], alternatives: [],
};
const model = tempoModel(reading);

it('draws the local tempo of each pulse', () => {
  const curve = tempoCurve(model);
  expect(curve).toHaveLength(15);
  for (const c of curve) {
    expect(c.bpm).toBeCloseTo(120, 9);
    expect(c.smooth).toBeCloseTo(120, 9);
  }
  expect(curve[9]?.confidence).toBe(0.3);
});

it('an even seven in a row of two, two and three is one tempo', () => {
  const beats = Array.from({ length: 12 }, (_, i) => 0.21 * (7 * Math.floor(i / 3) + 2 * (i % 3)));
  const seven = tempoModel({ ...reading, beats, confidence: beats.map(() => 0.9), firstDownbeat: 0, meters: [{ bar: 1, numerator: 7, denominator: 8, groups: [2, 2, 3] }] });
  for (const c of tempoCurve(seven)) expect(c.bpm).toBeCloseTo(60 / (0.21 * (7 / 3)), 9);
});

it('sets bar lines where the bars are, short ones too', () => {
  const lines = gridLines(model.map, 0, 7);
  expect(lines.filter((l) => l.bar !== null).map((l) => [l.bar, l.seconds])).toEqual([[1, 1.5], [2, 3.5], [3, 4.5], [4, 6.5]]);
  expect(lines.filter((l) => l.bar === null)).toHaveLength(8);
  expect(gridLines(model.map, 4.6, 5.4).map((l) => l.seconds)).toEqual([5]);
});

it('names doubtful places by bar and pulse', () => {
  expect(doubtfulPlaces(model)).toEqual([{ seconds: 5.5, confidence: 0.3, place: '3.3' }]);
});
