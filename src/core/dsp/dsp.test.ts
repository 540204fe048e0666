import { createRandom } from '../units';
import {
  correlationOf,
  createResampler,
  crossSpectrum,
  Fft,
  logGamma,
  median,
  pearson,
  percentile,
} from './index';

const { sin, cos, PI } = Math;

describe('Fft', () => {
  it.each([2, 4, 8, 64, 256])('equals the plain sum at size %i (seed 4)', (size) => {
    const random = createRandom(4);
    const re = Float64Array.from({ length: size }, () => random() - 0.5);
    const im = Float64Array.from({ length: size }, () => random() - 0.5);
    const want = Array.from({ length: size }, (_, k) => {
      let a = 0;
      let b = 0;
      for (let n = 0; n < size; n++) {
        const angle = (-2 * PI * k * n) / size;
        a += (re[n] as number) * cos(angle) - (im[n] as number) * sin(angle);
        b += (re[n] as number) * sin(angle) + (im[n] as number) * cos(angle);
      }
      return [a, b] as const;
    });
    new Fft(size).transformInto(re, im);
    want.forEach(([a, b], k) => {
      expect(re[k]).toBeCloseTo(a, 10);
      expect(im[k]).toBeCloseTo(b, 10);
    });
  });
  it('refuses other sizes', () => {
    for (const size of [0, 1, 3, 100]) expect(() => new Fft(size)).toThrow(RangeError);
  });
});

describe('resampler', () => {
  const convert = (input: Float32Array, from: number, to: number, block = input.length): Float32Array => {
    const r = createResampler(from, to, 1);
    const parts: Float32Array[] = [];
    for (let at = 0; at < input.length; at += block)
      parts.push(r.push([input.subarray(at, at + block)])[0] as Float32Array);
    parts.push(r.finish()[0] as Float32Array);
    const out = new Float32Array(parts.reduce((n, p) => n + p.length, 0));
    let at = 0;
    for (const p of parts) {
      out.set(p, at);
      at += p.length;
    }
    return out;
  };
  it.each([
    [44_100, 48_000],
    [48_000, 44_100],
    [96_000, 48_000],
  ])('%i to %i: length ceil(n·r), an impulse stays at its place', (from, to) => {
    const input = new Float32Array(from / 10);
    input[from / 100] = 1;
    const out = convert(input, from, to);
    expect(out.length).toBe(Math.ceil((input.length * to) / from));
    let top = 0;
    out.forEach((x, i) => {
      if (x > (out[top] as number)) top = i;
    });
    expect(top).toBe(to / 100);
  });
  it('keeps a tone to better than −100 dB', () => {
    const out = convert(
      Float32Array.from({ length: 8820 }, (_, i) => 0.5 * sin((2 * PI * 997 * i) / 44_100)),
      44_100,
      48_000,
    );
    let error = 0;
    for (let i = 1000; i < 8600; i++)
      error = Math.max(error, Math.abs((out[i] as number) - 0.5 * sin((2 * PI * 997 * i) / 48_000)));
    expect(20 * Math.log10(error / 0.5)).toBeLessThan(-100);
  });
  it('lets nothing above the new half rate through: a 23 kHz tone to 44.1 kHz stays below −100 dB', () => {
    const out = convert(
      Float32Array.from({ length: 9600 }, (_, i) => 0.5 * sin((2 * PI * 23_000 * i) / 48_000)),
      48_000,
      44_100,
    );
    let peak = 0;
    for (let i = 1000; i < 7800; i++) peak = Math.max(peak, Math.abs(out[i] as number));
    expect(20 * Math.log10(peak / 0.5)).toBeLessThan(-100);
  });
  it('gives the same in any blocks', () => {
    const random = createRandom(8);
    const input = Float32Array.from({ length: 3000 }, () => random() - 0.5);
    expect(convert(input, 44_100, 48_000, 17)).toEqual(convert(input, 44_100, 48_000));
  });
  it('refuses impossible rates', () => {
    expect(() => createResampler(0, 48_000, 1)).toThrow(RangeError);
    expect(() => createResampler(44_100.5, 48_000, 1)).toThrow(RangeError);
  });
});

it('the cross-correlation by spectra is that of the plain sums, at every lag (seed 12)', () => {
  const random = createRandom(12);
  const [a, b] = [0, 1].map(() => Float64Array.from({ length: 60 }, () => random() - 0.5)) as [
    Float64Array,
    Float64Array,
  ];
  const fft = new Fft(128);
  const fast = correlationOf(fft, crossSpectrum(fft, a, b));
  for (let lag = -59; lag < 60; lag++)
    expect(fast[(lag + 128) % 128]).toBeCloseTo(
      a.reduce((s, x, i) => s + x * (b[i + lag] ?? 0), 0),
      9,
    );
  // Weighted by nothing but bin 0, only the mean is left.
  const flat = correlationOf(fft, crossSpectrum(fft, a, b), (k) => (k === 0 ? 1 : 0));
  expect(flat[5]).toBeCloseTo((a.reduce((s, x) => s + x, 0) * b.reduce((s, x) => s + x, 0)) / 128, 9);
});
it('correlation: 1 for a line, −1 for its mirror, 0 for what does not move; the shorter decides', () => {
  expect(pearson([1, 2, 3], [10, 20, 30])).toBeCloseTo(1, 12);
  expect(pearson([1, 2, 3, 99], [3, 2, 1])).toBeCloseTo(-1, 12);
  expect(pearson([1, 2, 3], [5, 5, 5])).toBe(0);
  // Worked by hand: deviations −1.5 −0.5 0.5 1.5 and −1 1 −1 1 give 2 / √(5·4).
  expect(pearson([1, 2, 3, 4], [1, 3, 1, 3])).toBeCloseTo(2 / Math.sqrt(20), 12);
});

it('percentile lies between neighbours', () => {
  expect(median([3, 1, 2])).toBe(2);
  expect(percentile([0, 10], 0.25)).toBe(2.5);
  expect(percentile([], 0.5)).toBeNaN();
});

it('log gamma gives factorials and the half-way values known from tables', () => {
  let factorial = 1;
  for (let n = 1; n <= 20; n++) {
    expect(logGamma(n)).toBeCloseTo(Math.log(factorial), 10);
    factorial *= n;
  }
  expect(logGamma(0.5)).toBeCloseTo(Math.log(Math.sqrt(Math.PI)), 10);
  expect(logGamma(1e-3)).toBeCloseTo(6.907178885383853, 8); // by the series −ln x − γx + π²x²/12
});
