import type { TempoReading } from '@/core/tempo';
import {
  doubtfulPlaces,
  gridLines,
  hitsNear,
  nearestPulse,
  parseClock,
  tempoCurve,
  tempoModel,
} from './tempo-model';
import { formatMs } from '@/ui/kit';

const reading: TempoReading = {
  beats: Array.from({ length: 16 }, (_, i) => 1 + i * 0.5),
  confidence: Array.from({ length: 16 }, (_, i) => (i === 9 ? 0.3 : 0.9)),
  firstDownbeat: 1,
  meters: [
    { bar: 1, numerator: 4, denominator: 4 },
    { bar: 2, numerator: 2, denominator: 4 },
    { bar: 3, numerator: 4, denominator: 4 },
  ],
  steady: false,
  bpm: null,
  gridOffsetSeconds: null,
  timekeepers: [],
  alternatives: [],
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
  const seven = tempoModel({
    ...reading,
    beats,
    confidence: beats.map(() => 0.9),
    firstDownbeat: 0,
    meters: [{ bar: 1, numerator: 7, denominator: 8, groups: [2, 2, 3] }],
  });
  for (const c of tempoCurve(seven)) expect(c.bpm).toBeCloseTo(60 / (0.21 * (7 / 3)), 9);
});

it('sets bar lines where the bars are, short ones too', () => {
  const lines = gridLines(model.map, 0, 7);
  expect(lines.filter((l) => l.bar !== null).map((l) => [l.bar, l.seconds])).toEqual([
    [1, 1.5],
    [2, 3.5],
    [3, 4.5],
    [4, 6.5],
  ]);
  expect(lines.filter((l) => l.bar === null)).toHaveLength(8);
  expect(gridLines(model.map, 4.6, 5.4).map((l) => l.seconds)).toEqual([5]);
});

it('names doubtful places by bar and pulse', () => {
  expect(doubtfulPlaces(model)).toEqual([{ seconds: 5.5, confidence: 0.3, isBarLine: false, place: '3.3' }]);
});

it('finds the pulse nearest to a moment', () => {
  expect([0, 1.2, 1.26, 4.9, 99].map((t) => nearestPulse(model.pulses, t))).toEqual([0, 0, 1, 8, 15]);
  expect(nearestPulse([], 3)).toBe(0);
  for (let t = 0; t < 10; t += 0.07) {
    const plain = model.pulses.reduce(
      (a, p, i) => (Math.abs(p.seconds - t) < Math.abs((model.pulses[a]?.seconds ?? 0) - t) ? i : a),
      0,
    );
    expect(nearestPulse(model.pulses, t)).toBe(plain);
  }
});
it('names what strikes around a pulse, the nearest first', () => {
  const hits = [
    { trackId: 'a', seconds: [2.98, 3.02, 3.4], strength: [0.5, 1, 1] },
    { trackId: 'b', seconds: [3.005], strength: [0.7] },
    { trackId: 'c', seconds: [3.2], strength: [1] },
  ];
  expect(hitsNear(model.pulses, 4, hits).map((h) => [h.trackId, Number(h.late.toFixed(3))])).toEqual([
    ['b', 0.005],
    ['a', -0.02],
  ]);
  expect(hitsNear(model.pulses, 99, hits)).toEqual([]);
});
it('writes distances and reads moments', () => {
  expect([0.0042, -0.0123, 0].map(formatMs)).toEqual(['+4.2 ms', '−12 ms', '+0.0 ms']);
  expect(['1:02.5', '62,5', ' 7 ', '', 'x', '1:2:3', '-4'].map(parseClock)).toEqual([
    62.5,
    62.5,
    7,
    null,
    null,
    null,
    null,
  ]);
});
