import { createRandom } from '../units';
import { latencyOf, readTaps, tapLength } from './index';

const FOUR = { numerator: 4, denominator: 4 };
const every = (from: number, gap: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => from + gap * i);
const bell = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

it('a tap a pulse, a half, a bar, two bars: the same map', () => {
  const beats = every(3, 0.5, 33);
  for (const each of ['half', 'pulse', 'bar', 'two bars'] as const) {
    const pulses = tapLength(each, FOUR);
    const { beats: found, firstDownbeat } = readTaps({
      taps: every(3, 0.5 * pulses, 1 + Math.round(32 / pulses)),
      pulsesPerTap: pulses,
      meter: FOUR,
      hits: [],
    });
    expect(firstDownbeat).toBe(0);
    expect(found.length).toBe(33);
    found.forEach((t, i) => expect(t).toBeCloseTo(beats[i] as number, 6));
  }
  expect(tapLength('bar', { numerator: 6, denominator: 8 })).toBe(2);
});
it('hands are evened out, and near hits are what was meant (seed 7)', () => {
  const random = createRandom(7);
  const beats = every(2, 0.55, 80).map((t, i) => t + 0.15 * Math.sin(i / 20));
  const taps = beats.map((t) => t + 0.022 * bell(random));
  const rms = (found: readonly number[]): number =>
    Math.sqrt(found.reduce((a, t, i) => a + (t - (beats[i] as number)) ** 2, 0) / beats.length);
  const plain = readTaps({ taps, pulsesPerTap: 1, meter: FOUR, hits: [] });
  const toHits = readTaps({ taps, pulsesPerTap: 1, meter: FOUR, hits: beats.filter((_, i) => i % 3 !== 1) });
  expect(rms(taps)).toBeGreaterThan(0.018);
  expect(rms(plain.beats)).toBeLessThan(0.012);
  expect(rms(toHits.beats)).toBeLessThan(0.005);
});
it('a slip counts once, taps left out are filled in', () => {
  const taps = every(1, 0.5, 24).filter((_, i) => i !== 7 && i !== 12 && i !== 13);
  const { beats } = readTaps({
    taps: [...taps, 3.11].sort((a, b) => a - b),
    pulsesPerTap: 1,
    meter: FOUR,
    hits: [],
  });
  expect(beats.length).toBe(24);
  beats.forEach((t, i) => expect(Math.abs(t - (1 + 0.5 * i))).toBeLessThan(0.005));
});
it('too few, too fast, without order: said in words', () => {
  expect(() => readTaps({ taps: [1, 2, 3], pulsesPerTap: 1, meter: FOUR, hits: [] })).toThrow('at least 4');
  expect(() => readTaps({ taps: every(0, 0.01, 9), pulsesPerTap: 1, meter: FOUR, hits: [] })).toThrow(
    'too fast',
  );
  expect(() =>
    readTaps({ taps: [...every(1, 0.5, 8), 5.25, 5.75, 6.25], pulsesPerTap: 1, meter: FOUR, hits: [] }),
  ).toThrow('lose their order');
});
it('measures what lies between hearing and tapping', () => {
  const clicks = every(0, 0.6, 16);
  expect(
    latencyOf(
      clicks,
      clicks.slice(2).map((t, i) => t + 0.041 + 0.01 * Math.sin(9 * i)),
    ),
  ).toBeCloseTo(0.041, 2);
  expect(latencyOf(clicks, [0.6, 1.2])).toBeNull();
});
