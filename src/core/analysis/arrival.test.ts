import { createRandom } from '../units';
import {
  ArrivalAnalysis,
  decodePeakParts,
  encodePeakPart,
  encodePeaks,
  PEAK_BASE_FRAMES,
  PeakPyramid,
  readPeakLevel,
} from './index';

const RATE = 48_000;
const facts = (channels: readonly Float32Array[], block = 1000) => {
  const pass = new ArrivalAnalysis(RATE, channels.length);
  for (let at = 0; at < (channels[0]?.length ?? 0); at += block)
    pass.push(channels.map((c) => c.subarray(at, at + block)));
  return pass.finish().facts;
};
const square = (level: number, frames: number): Float32Array =>
  Float32Array.from({ length: frames }, (_, i) => (i % 100 < 50 ? level : -level));

describe('arrival facts', () => {
  it('reads levels in dB re full scale: a square of 0.5 has peak and RMS −6.02 (by definition)', () => {
    const f = facts([square(0.5, 4800)]);
    expect(f.peakDbfs).toBeCloseTo(-6.0206, 3);
    expect(f.rmsDbfs).toBeCloseTo(-6.0206, 3);
  });
  it('knows digital silence', () => {
    expect(facts([new Float32Array(4800)])).toMatchObject({
      peakDbfs: null,
      rmsDbfs: null,
      integratedLufs: null,
      firstSoundSeconds: null,
      lastSoundSeconds: null,
      clippedRuns: 0,
    });
  });
  it('finds first and last sound above −60 dBFS', () => {
    const x = new Float32Array(RATE);
    x[12_000] = 0.5;
    x[24_000] = 0.0005; // −66 dBFS: too quiet to count
    x[36_000] = -0.5;
    x[40_000] = 0.0009;
    const f = facts([x]);
    expect(f.firstSoundSeconds).toBeCloseTo(0.25, 4);
    expect(f.lastSoundSeconds).toBeCloseTo(0.75, 4);
  });
  it('counts runs of three at full scale, across blocks too, not pairs', () => {
    const x = new Float32Array(3000);
    x.fill(1, 100, 103);
    x.fill(-1, 998, 1003);
    x.fill(1, 2000, 2002);
    expect(facts([x], 1000).clippedRuns).toBe(2);
  });
  it('sees an offset and a stereo file that is mono', () => {
    const x = square(0.25, 4800).map((v) => v + 0.01);
    expect(facts([x]).dcOffset).toBeCloseTo(0.01, 4);
    expect(facts([x, x]).dualMono).toBe(true);
    expect(facts([x, x.map((v, i) => (i === 4000 ? v + 0.05 : v))]).dualMono).toBe(false);
    expect(facts([x]).dualMono).toBe(false);
  });
  it('gives the same in any blocks (seed 2)', () => {
    const random = createRandom(2);
    const x = Float32Array.from({ length: 20_000 }, () => random() - 0.5);
    // Sums in another order differ in their last digits.
    const rounded = (f: ReturnType<typeof facts>) =>
      Object.fromEntries(
        Object.entries(f).map(([k, v]) => [k, typeof v === 'number' ? Number(v.toFixed(9)) : v]),
      );
    expect(rounded(facts([x], 7))).toEqual(rounded(facts([x], 20_000)));
  });
});

describe('peak pyramid', () => {
  it('holds lowest and highest of every stretch, on every level (seed 5)', () => {
    const random = createRandom(5);
    const x = Float32Array.from({ length: 40_000 }, () => random() * 2 - 1);
    const pyramid = new PeakPyramid();
    for (let at = 0; at < x.length; at += 999) pyramid.push([x.subarray(at, at + 999)]);
    const blob = encodePeaks(pyramid.finish());
    for (const frames of [256, 1024, 4096, 16_384]) {
      const level = readPeakLevel(blob, frames);
      expect(level.framesPerEntry).toBe(frames);
      for (let e = 0; e * frames < x.length; e++) {
        const part = x.subarray(e * frames, (e + 1) * frames);
        expect(level.minMax[2 * e]).toBe(Math.round(part.reduce((a, v) => (v < a ? v : a), 1) * 32767));
        expect(level.minMax[2 * e + 1]).toBe(Math.round(part.reduce((a, v) => (v > a ? v : a), -1) * 32767));
      }
    }
    expect(readPeakLevel(blob, 100).framesPerEntry).toBe(PEAK_BASE_FRAMES);
    expect(() => readPeakLevel(new Uint8Array(8), 256)).toThrow(RangeError);
  });
});

it('waveforms of many recordings travel together: in order, one without any is empty, what is cut off is missing', () => {
  const a = { framesPerEntry: 256, minMax: Int16Array.from([-32768, 32767, -1, 1]) };
  const b = { framesPerEntry: 4096, minMax: Int16Array.from([0, 5]) };
  const parts = [a, null, b].map(encodePeakPart);
  const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 3));
  parts.reduce((at, p) => {
    all.set(p, at);
    return at + p.length;
  }, 3);
  const bytes = all.subarray(3);
  expect(decodePeakParts(bytes)).toEqual([a, null, b]);
  expect(decodePeakParts(bytes.subarray(0, bytes.length - 1))).toEqual([a, null]);
  expect(decodePeakParts(new Uint8Array(5))).toEqual([]);
});
