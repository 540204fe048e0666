import { createRandom } from '../units';
import { lineRelation } from './line-relation';
import { type PitchLine, PitchLineBuilder } from './pitch-line';
import { waveRelation } from './wave-relation';

const RATE = 44_100;

/** Harmonics that fall off, along a pitch in semitones. */
function tone(pitchAt: (t: number) => number, seconds: number): Float32Array {
  let phase = 0;
  return Float32Array.from({ length: seconds * RATE }, (_, i) => {
    phase += (440 * 2 ** ((pitchAt(i / RATE) - 69) / 12)) / RATE;
    return [1, 2, 3, 4, 5].reduce((sum, h) => sum + Math.sin(2 * Math.PI * h * phase) / h, 0) / 4;
  });
}

function lineOf(samples: Float32Array): PitchLine {
  const builder = new PitchLineBuilder(RATE);
  for (let i = 0; i < samples.length; i += 1000) builder.push(samples.subarray(i, i + 1000));
  return builder.finish();
}

// Equal temperament, A4 = 440 Hz (ISO 16): 69 = A4, 45 = A2 at 110 Hz.
it.each([45, 57, 62.5, 69, 76, 84])('the pitch of a tone at %s', (pitch) => {
  const line = lineOf(tone(() => pitch, 1));
  expect(line).toHaveLength(100);
  for (const p of line.slice(5, 95)) expect(Math.abs(p - pitch)).toBeLessThan(0.1);
});

it('follows a glide, and has nothing to say of noise and silence', () => {
  const line = lineOf(tone((t) => 55 + 12 * t, 1));
  for (const n of [20, 50, 80]) expect(Math.abs((line[n] as number) - (55 + 0.12 * n))).toBeLessThan(0.3);
  const random = createRandom(3);
  const noise = lineOf(Float32Array.from({ length: RATE }, () => random() - 0.5));
  expect(noise.filter((p) => !Number.isNaN(p)).length).toBeLessThan(10);
  expect(lineOf(new Float32Array(RATE)).every((p) => Number.isNaN(p))).toBe(true);
});

it('one line, a harmony, an octave, nothing in common', () => {
  const of = (by: number) => lineRelation(line(0), line(by));
  const line = (by: number): PitchLine =>
    Float32Array.from({ length: 400 }, (_, n) => (n % 50 < 5 ? NaN : 60 + by + Math.floor(n / 50)));
  expect(of(0.2)).toMatchObject({ seconds: 3.6, share: 1, unison: 1 });
  expect(of(4).harmony).toBeGreaterThan(0.8);
  expect(of(12)).toMatchObject({ octave: 1, harmony: 0 });
  expect(lineRelation(line(0), new Float32Array(400).fill(NaN))).toMatchObject({
    seconds: 0,
    share: 0,
    unison: 0,
  });
});

it('the same note a little later is the same line', () => {
  const a = Float32Array.from({ length: 200 }, (_, n) => 60 + 2 * Math.floor(n / 20));
  const b = Float32Array.from({ length: 200 }, (_, n) => 60 + 2 * Math.floor((n - 3) / 20));
  expect(lineRelation(a, b).unison).toBeGreaterThan(0.95);
});

it('copies are told from other performances and from a second microphone', () => {
  const random = createRandom(5);
  const noise = (): Float32Array => Float32Array.from({ length: 3000 }, () => random() - 0.5);
  const windows = Array.from({ length: 8 }, noise);
  const pairs = (of: (w: Float32Array, k: number) => Float32Array) =>
    windows.map((w, k) => ({ a: w, b: of(w, k) }));
  expect(
    waveRelation(
      pairs((w) => w.map((x) => -0.3 * x)),
      12_000,
    ),
  ).toEqual({ windows: 8, copied: 1, alike: 1, correlation: expect.closeTo(1, 9) as number });
  expect(
    waveRelation(
      pairs((w, k) => (k < 2 ? w : noise())),
      12_000,
    ).copied,
  ).toBe(0.25);
  const far = waveRelation(
    pairs((w) => w.map((x, i) => 0.6 * (w[i - 20] ?? 0) + 0.1 * x + 0.05 * (random() - 0.5))),
    12_000,
  );
  expect([far.copied, far.correlation > 0.85]).toEqual([0, true]);
  expect(waveRelation(pairs(noise), 12_000).correlation).toBeLessThan(0.2);
  expect(waveRelation([], 12_000)).toEqual({ windows: 0, copied: 0, alike: 0, correlation: 0 });
});
