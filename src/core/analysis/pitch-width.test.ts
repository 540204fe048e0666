import { createRandom } from '../units';
import { PITCHES_PER_SECOND, PitchWidthAnalysis, type PitchWidth } from './pitch-width';

const heard = (channels: readonly Float32Array[], rateHz = 48_000, block = 4801): PitchWidth => {
  const pass = new PitchWidthAnalysis(rateHz);
  for (let at = 0; at < (channels[0]?.length ?? 0); at += block)
    pass.push(channels.map((c) => c.subarray(at, at + block)));
  return pass.finish();
};
/** A sound of ten partials. */
const tone = (hz: number, seconds: number, rateHz = 48_000): Float32Array =>
  Float32Array.from(
    { length: Math.round(seconds * rateHz) },
    (_, i) =>
      Array.from(
        { length: 10 },
        (_x, p) => Math.sin((2 * Math.PI * (p + 1) * hz * i) / rateHz) / (p + 1),
      ).reduce((a, b) => a + b, 0) * 0.3,
  );
const noise = (seconds: number, seed: number): Float32Array => {
  const random = createRandom(seed);
  return Float32Array.from({ length: seconds * 48_000 }, () => random() - 0.5);
};

// Equal temperament, A = 440 Hz (ISO 16): E1 41.203, A2 110, C4 261.626, A5 880.
it.each([
  [41.203, 48_000],
  [110, 44_100],
  [261.626, 96_000],
  [880, 48_000],
])('finds %f Hz at %i within ten cents, and clear', (hz, rateHz) => {
  const { pitchHz, clarity } = heard([tone(hz, 1, rateHz)], rateHz);
  expect(pitchHz.length).toBeGreaterThanOrEqual(PITCHES_PER_SECOND - 1);
  for (const found of pitchHz) expect(Math.abs(1200 * Math.log2(found / hz))).toBeLessThan(10);
  for (const c of clarity) expect(c).toBeGreaterThan(0.9);
});
it('noise and silence have no pitch', () => {
  expect([...heard([noise(2, 5)]).pitchHz].filter((x) => x > 0)).toEqual([]);
  expect([...heard([new Float32Array(48_000)]).clarity]).toEqual(new Array(9).fill(0));
});
it('knows how wide two channels are, whatever the blocks they come in', () => {
  const [a, b] = [noise(1, 1), noise(1, 2)];
  const mean = (x: Float32Array): number => x.reduce((s, v) => s + v, 0) / x.length;
  expect(mean(heard([a]).side)).toBe(0);
  expect(mean(heard([a, a]).side)).toBe(0);
  expect(mean(heard([a, b]).side)).toBeCloseTo(0.5, 1);
  expect(mean(heard([a, a.map((x) => -x)]).side)).toBeCloseTo(1, 6);
  expect(heard([a, b], 48_000, 777)).toEqual(heard([a, b], 48_000, 48_000));
});
