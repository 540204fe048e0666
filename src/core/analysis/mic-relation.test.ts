import { createRandom } from '../units';
import { relateFarMic, relateMics } from './mic-relation';

const RATE = 48_000;
const LENGTH = 32_768;

/** Signals by a rule over fractional time, so that a delay of any size is exact. */
const sampled = (f: (t: number) => number, delaySamples = 0, gain = 1): Float32Array =>
  Float32Array.from({ length: LENGTH }, (_, i) => gain * f(i - delaySamples));

const { exp, sin, PI } = Math;

function drumHits(seed: number): (i: number) => number {
  const random = createRandom(seed);
  const hits = Array.from({ length: 5 }, (_, k) => ({
    at: 1500 + k * 6000 + random() * 900,
    hz: 60 + random() * 90,
    top: 1200 + random() * 3000,
  }));
  return (i) =>
    hits.reduce((sum, h) => {
      const t = (i - h.at) / RATE;
      return t < 0
        ? sum
        : sum + exp(-t * 30) * sin(2 * PI * h.hz * t) + 0.4 * exp(-t * 200) * sin(2 * PI * h.top * t);
    }, 0);
}

/** White noise, low-passed a little. */
function noise(seed: number): (i: number) => number {
  const random = createRandom(seed);
  const values = Float32Array.from({ length: LENGTH + 4000 }, () => random() - 0.5);
  return (i) => {
    const at = (i + 2000) | 0;
    return (values[at] ?? 0) + (values[at + 1] ?? 0);
  };
}

const related = (leader: Float32Array, other: Float32Array) => {
  const r = relateMics([{ leader, other }], RATE);
  if (!r) throw new Error('nothing to compare');
  return r;
};

describe('two microphones on one source', () => {
  it.each([0, 7, -33, 250, 900])(
    'noise: a delay of %d samples within a tenth, polarity either way',
    (delay) => {
      const f = noise(1);
      for (const sign of [1, -1]) {
        const found = related(sampled(f), sampled(f, delay, 0.3 * sign));
        expect(Math.abs(found.delaySamples - delay)).toBeLessThan(0.1);
        expect(found.polarity).toBe(sign);
        expect(found.confidence).toBeGreaterThan(0.9);
      }
    },
  );

  it.each([1, 2, 3, 4, 5, 6])(
    'drums with bleed of another instrument, seed %d: within 0.1 ms, polarity right',
    (seed) => {
      const delay = 20 * seed + 0.3;
      const [hit, bleed] = [drumHits(seed), noise(seed + 50)];
      const leader = sampled((i) => hit(i) + 0.06 * bleed(i));
      const other = sampled((i) => -0.5 * hit(i - delay) + 0.06 * bleed(i + 300));
      const found = related(leader, other);
      expect(Math.abs(found.delaySamples - delay)).toBeLessThan(4.8);
      expect(found.polarity).toBe(-1);
      expect(found.confidence).toBeGreaterThan(0.5);
    },
  );

  it('a steady bass tone with overtones: no octave of its period is taken for the delay', () => {
    const f = (i: number): number =>
      [1, 2, 3, 4, 5, 7, 9].reduce((s, n) => s + sin((2 * PI * 55 * n * i) / RATE + n) / n, 0) *
      (1 - exp(-Math.max(0, i - 4000) / 400));
    expect(
      Math.abs(
        related(
          sampled((i) => (i < 4000 ? 0 : f(i))),
          sampled((i) => (i - 30 < 4000 ? 0 : f(i - 30))),
        ).delaySamples - 30,
      ),
    ).toBeLessThan(1);
  });

  it('unrelated sounds are not believed; silence and nothing give no relation', () => {
    expect(related(sampled(noise(1)), sampled(noise(2))).confidence).toBeLessThan(0.2);
    expect(relateMics([{ leader: new Float32Array(LENGTH), other: sampled(noise(1)) }], RATE)).toBeNull();
    expect(relateMics([], RATE)).toBeNull();
  });
});

describe('a microphone farther off against a close one', () => {
  const room = (hit: (i: number) => number, seed: number) => {
    const random = createRandom(seed);
    // Later arrivals, together louder than the first, either way up.
    const later = Array.from({ length: 40 }, () => [200 + 4000 * random(), 0.3 * (random() - 0.5)]) as [
      number,
      number,
    ][];
    return (i: number) => later.reduce((sum, [by, gain]) => sum + gain * hit(i - by), 0.25 * hit(i));
  };

  it.each([1, 2, 3, 4])('the first arrival of a room and its polarity are told, seed %d', (seed) => {
    const [hit, bleed] = [drumHits(seed), noise(seed + 80)];
    const delay = 300 + 60 * seed;
    for (const sign of [1, -1]) {
      const leader = sampled((i) => hit(i) + 0.01 * bleed(i));
      const other = sampled((i) => sign * room(hit, seed)(i - delay) + 0.002 * bleed(i + 900));
      const found = relateFarMic([{ leader, other }], RATE);
      if (!found) throw new Error('nothing to compare');
      expect(Math.abs(found.delaySamples - delay)).toBeLessThan(2);
      expect(found.polarity).toBe(sign);
      expect(found.confidence).toBeGreaterThan(0.5);
    }
  });

  it('unrelated sounds are not believed; silence gives no relation', () => {
    const two = { leader: sampled(noise(3)), other: sampled(noise(4)) };
    expect(relateFarMic([two], RATE)?.confidence).toBeLessThan(0.3);
    expect(relateFarMic([{ ...two, other: new Float32Array(LENGTH) }], RATE)).toBeNull();
  });
});
