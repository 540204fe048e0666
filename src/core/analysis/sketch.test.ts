import { createRandom } from '../units';
import {
  encodeSketch,
  likeness,
  mixFit,
  OnsetAnalysis,
  readSketch,
  reverbTail,
  SKETCH_BANDS,
  SKETCH_PER_SECOND,
  sketchDb,
  sketchHz,
  sketchOf,
  sketchPercentile,
  sketchTotals,
  type SoundSketch,
} from './index';

const RATE = 48_000;
const drawn = (samples: Float32Array, rate = RATE, block = samples.length): SoundSketch => {
  const pass = new OnsetAnalysis(rate);
  for (let at = 0; at < samples.length; at += block) pass.push([samples.subarray(at, at + block)]);
  pass.finish();
  return pass.sketch();
};
const sine = (hz: number, level: number, seconds: number, rate = RATE): Float32Array =>
  Float32Array.from({ length: seconds * rate }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / rate));
/** Noise in bursts at moments of its own. */
const bursts = (seed: number, seconds: number): Float32Array => {
  const random = createRandom(seed);
  const x = new Float32Array(seconds * RATE);
  for (let t = 0.2; t < seconds - 0.3; t += 0.15 + 0.4 * random()) {
    const gain = 0.1 + 0.4 * random();
    for (let i = 0; i < 0.2 * RATE; i++)
      x[Math.round(t * RATE) + i] = gain * (random() * 2 - 1) * Math.exp(-i / 2000);
  }
  return x;
};

it.each([44_100, 48_000, 96_000])(
  'a full-scale sine is 0 dB in its band at %i Hz, 20 dB less is 20 dB less',
  (rate) => {
    for (const level of [1, 0.1]) {
      const sketch = drawn(sine(1031, level, 1, rate), rate);
      const band = Array.from({ length: SKETCH_BANDS }, (_, b) => b).reduce(
        (best, b) =>
          Math.abs(Math.log(sketchHz(b) / 1031)) < Math.abs(Math.log(sketchHz(best) / 1031)) ? b : best,
        0,
      );
      expect(Math.abs((sketchTotals(sketch)[20] as number) - 20 * Math.log10(level))).toBeLessThan(0.8);
      expect(sketchDb(sketch, 20, band)).toBeGreaterThan(20 * Math.log10(level) - 3);
      expect(sketchDb(sketch, 20, band - 8)).toBeLessThan(20 * Math.log10(level) - 40);
      expect(Math.abs(sketch.frames - SKETCH_PER_SECOND)).toBeLessThanOrEqual(1);
    }
  },
);
it('does not depend on how the stream is cut; silence is nothing; bytes come back', () => {
  const x = bursts(1, 3);
  expect(drawn(x, RATE, 777)).toEqual(drawn(x));
  expect([...new Set(drawn(new Float32Array(RATE)).levels)]).toEqual([0]);
  expect(readSketch(encodeSketch(drawn(x)))).toEqual(drawn(x));
  expect(() => readSketch(new Uint8Array([9, 0, 0, 0, 1]))).toThrow(RangeError);
  expect(() => readSketch(new Uint8Array(2))).toThrow(RangeError);
});
it('percentiles are those of the sorted levels to half a dB (seed 2)', () => {
  const sketch = drawn(bursts(2, 4));
  for (const band of [0, 9, 23])
    for (const p of [0.02, 0.5, 0.95]) {
      const sorted = Array.from({ length: sketch.frames }, (_, n) => sketchDb(sketch, n, band)).sort(
        (a, b) => a - b,
      );
      expect(
        Math.abs(sketchPercentile(sketch, band, p) - (sorted[Math.ceil(p * sorted.length) - 1] as number)),
      ).toBeLessThanOrEqual(0.5);
    }
  expect(sketchPercentile({ frames: 0, levels: new Uint8Array(0) }, 3, 0.5)).toBe(-120);
});
it('the same playing is found through another level and start; another is not', () => {
  const [x, y] = [bursts(3, 12), bursts(4, 12)];
  for (const seconds of [-1.5, -0.3, 0, 0.7, 2.1]) {
    const shift = Math.round(seconds * RATE);
    const moved = x.map((_, i) => 0.2 * (x[i - shift] ?? 0));
    const found = likeness(drawn(x), drawn(moved), 20);
    expect(found?.laterSeconds).toBeCloseTo(seconds, 1);
    expect(found?.correlation).toBeGreaterThan(0.95);
  }
  expect(likeness(drawn(x), drawn(y), 20)?.correlation).toBeLessThan(0.5);
  expect(likeness(drawn(x), drawn(new Float32Array(12 * RATE)), 20)).toBeNull();
  expect(likeness(drawn(x.subarray(0, 4000)), drawn(x), 20)).toBeNull();
});
it('a sum of others is told with its voices and its start; one of them alone has one voice', () => {
  const sounds = [5, 6, 7, 8].map((seed) =>
    bursts(seed, 15).map((v, i) => v * Math.sin((2 * Math.PI * 400 * 2.3 ** (seed - 5) * i) / RATE)),
  );
  const parts = sounds.map((x, i) => ({ sketch: drawn(x), startSeconds: 0.5 * i, group: `voice ${i}` }));
  const late = Math.round(1.2 * RATE);
  const sum = Float32Array.from({ length: 19 * RATE }, (_, n) =>
    sounds.reduce(
      (s, x, i) => s + [0.5, 1, 0.7, 0.9][i]! * (x[n - late - Math.round(0.5 * i * RATE)] ?? 0),
      0,
    ),
  );
  const fit = mixFit({ sketch: drawn(sum), startSeconds: 0, group: 'mix' }, parts);
  expect(fit).toMatchObject({ groups: 4 });
  expect(fit?.laterSeconds).toBeCloseTo(1.2, 1);
  expect(fit?.errorDb).toBeLessThan(1);
  expect(
    mixFit({ sketch: drawn(sounds[1] as Float32Array), startSeconds: 0.5, group: 'alone' }, parts)?.groups,
  ).toBe(1);
  expect(mixFit(parts[0]!, parts.slice(0, 3))).toBeNull();
  expect(
    mixFit({ sketch: drawn(new Float32Array(RATE)), startSeconds: 0, group: 'silence' }, parts),
  ).toBeNull();
});
it.each([0.5, 1, 2])('a straight decay of %f s is read as such (by its own definition: 60 dB)', (seconds) => {
  const frames = 40 * SKETCH_PER_SECOND;
  const powers = new Float64Array(frames * SKETCH_BANDS);
  for (let n = 0; n < frames; n++) {
    const since = (n % 250) / SKETCH_PER_SECOND;
    powers.fill(
      Math.max(1e-10, 0.01 * 10 ** ((-6 * Math.max(0, since - 0.4)) / seconds)),
      n * SKETCH_BANDS,
      (n + 1) * SKETCH_BANDS,
    );
  }
  const tail = reverbTail(sketchOf(powers));
  expect(tail).toMatchObject({ straight: 1 });
  expect((tail?.seconds ?? 0) / seconds).toBeCloseTo(1, 1);
});
it('noise and silence have no tail', () => {
  const random = createRandom(9);
  expect(reverbTail(drawn(Float32Array.from({ length: 5 * RATE }, () => random() - 0.5)))).toBeNull();
  expect(reverbTail(drawn(new Float32Array(RATE)))).toBeNull();
});
