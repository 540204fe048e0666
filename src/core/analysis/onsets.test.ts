import { createRandom } from '../units';
import { encodeOnsets, moveOnsets, OnsetAnalysis, ONSETS_PER_SECOND, readOnsets } from './index';

const RATE = 48_000;

function analyse(samples: Float32Array, blocks: readonly number[], rate = RATE) {
  const analysis = new OnsetAnalysis(rate);
  let at = 0;
  for (let i = 0; at < samples.length; i++) {
    const n = blocks[i % blocks.length] as number;
    analysis.push([samples.subarray(at, at + n)]);
    at += n;
  }
  return analysis.finish();
}

/** Short noise bursts with a fast attack at the given moments. */
function bursts(moments: readonly number[], seconds: number, rate = RATE): Float32Array {
  const random = createRandom(1);
  const out = new Float32Array(Math.round(seconds * rate));
  for (const m of moments)
    for (let i = 0; i < 0.06 * rate; i++) {
      const k = Math.round(m * rate) + i;
      if (k < out.length)
        out[k] = (out[k] as number) + (random() * 2 - 1) * 0.5 * Math.exp(-i / (0.012 * rate));
    }
  return out;
}

it('does not depend on how the stream is cut', () => {
  const samples = bursts([0.3, 0.71, 1.2], 2);
  const whole = analyse(samples, [samples.length]);
  const cut = analyse(samples, [1, 777, 4096, 13]);
  expect(cut.low.length).toBe(whole.low.length);
  for (const band of ['low', 'mid', 'high'] as const)
    whole[band].forEach((x, i) => expect(cut[band][i]).toBeCloseTo(x, 6));
});

it.each([44_100, 48_000, 96_000, 192_000])('peaks within 6 ms of each attack at %i Hz', (rate) => {
  const moments = [0.4, 0.9123, 1.5017, 2.2];
  const { high, mid } = analyse(bursts(moments, 3, rate), [10_000], rate);
  for (const m of moments) {
    let best = 0;
    let at = 0;
    for (let i = Math.round((m - 0.1) * ONSETS_PER_SECOND); i < (m + 0.1) * ONSETS_PER_SECOND; i++) {
      const x = (high[i] ?? 0) + (mid[i] ?? 0);
      if (x > best) {
        best = x;
        at = i / ONSETS_PER_SECOND;
      }
    }
    expect(Math.abs(at - m)).toBeLessThan(0.006);
  }
});

it.each([44_100, 48_000, 96_000])('finds where attacks begin within 1 ms at %i Hz', (rate) => {
  const moments = [0.4, 0.9123, 1.5017, 2.2];
  const { attacks } = analyse(bursts(moments, 3, rate), [10_000], rate);
  const strong = [...attacks.seconds].filter((_, i) => (attacks.high[i] as number) > 3);
  expect(strong.length).toBe(moments.length);
  moments.forEach((m, i) => expect(Math.abs((strong[i] as number) - m)).toBeLessThan(0.001));
});

it('finds a hat over a ringing drum, and the drum under its own click', () => {
  const x = new Float32Array(2 * RATE);
  const random = createRandom(4);
  for (let i = 0; i < 1.5 * RATE; i++)
    x[0.3 * RATE + i] = 0.6 * Math.exp(-i / (0.5 * RATE)) * Math.sin((2 * Math.PI * 70 * i) / RATE);
  for (let i = 0; i < 0.05 * RATE; i++)
    x[0.9 * RATE + i] = (x[0.9 * RATE + i] as number) + 0.1 * Math.exp(-i / (0.01 * RATE)) * (random() - 0.5);
  const { seconds } = analyse(x, [5000]).attacks;
  expect(Math.abs((seconds[0] as number) - 0.3)).toBeLessThan(0.003);
  expect(Math.min(...Array.from(seconds, (t) => Math.abs(t - 0.9)))).toBeLessThan(0.001);
});

it('sees a chord change in the classes of pitch', () => {
  const tone = (hz: number, i: number): number => 0.2 * Math.sin((2 * Math.PI * hz * i) / RATE);
  const { chroma } = analyse(
    Float32Array.from({ length: 2 * RATE }, (_, i) =>
      i < RATE ? tone(220, i) + tone(277.18, i) : tone(261.63, i) + tone(392, i),
    ),
    [4800],
  );
  const strongest = (n: number): number[] =>
    [...chroma.subarray(12 * n, 12 * n + 12).entries()]
      .sort((a, b) => b[1] - a[1])
      .slice(0, 2)
      .map(([k]) => k)
      .sort((a, b) => a - b);
  expect(strongest(5)).toEqual([1, 9]);
  expect(strongest(15)).toEqual([0, 7]);
});

it('keeps what was heard as bytes, reads those of before, and refuses others', () => {
  const heard = analyse(bursts([0.2], 1), [5000]);
  const bytes = encodeOnsets(heard);
  expect(readOnsets(bytes)).toEqual(heard);
  const before = readOnsets(bytes.slice(0, 4 + 12 * heard.low.length));
  expect(before.low).toEqual(heard.low);
  expect(Math.abs((before.attacks.seconds[0] as number) - 0.2)).toBeLessThan(0.006);
  for (let n = 0; n < bytes.length; n += 7)
    if (n !== 4 + 12 * heard.low.length) expect(() => readOnsets(bytes.subarray(0, n))).toThrow(RangeError);
  expect(() => readOnsets(new Uint8Array(7))).toThrow(RangeError);
});

it('curves at another speed are drawn out or together: every attack stays, at its new moment', () => {
  const flat = new Float32Array(1000);
  const none = {
    attacks: {
      seconds: new Float64Array(0),
      low: new Float32Array(0),
      mid: new Float32Array(0),
      high: new Float32Array(0),
    },
    chroma: new Float32Array(0),
  };
  const hits = [10, 333, 700, 999];
  for (const at of hits) flat[at] = at;
  for (const speed of [0.5, 147 / 160, 160 / 147, 2, 2.2]) {
    const { low } = moveOnsets({ low: flat, mid: flat, high: flat, ...none }, 0, speed);
    expect(low.length).toBe(Math.round(1000 / speed));
    for (const at of hits) {
      const near = [...low.entries()].filter(([, x]) => x === at).map(([i]) => i);
      expect(near.length).toBeGreaterThan(0);
      for (const i of near) expect(Math.abs(i * speed - at)).toBeLessThanOrEqual(Math.max(1, speed));
    }
  }
  const later = moveOnsets({ low: flat, mid: flat, high: flat, ...none }, 10 / ONSETS_PER_SECOND, 2);
  expect(later.low[5 + 10]).toBe(10);
});
