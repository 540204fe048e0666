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
  for (const m of moments) for (let i = 0; i < 0.06 * rate; i++) { const k = Math.round(m * rate) + i; if (k < out.length) out[k] = (out[k] as number) + (random() * 2 - 1) * 0.5 * Math.exp(-i / (0.012 * rate)); }
  return out;
}

it('does not depend on how the stream is cut', () => {
  const samples = bursts([0.3, 0.71, 1.2], 2);
  const whole = analyse(samples, [samples.length]);
  const cut = analyse(samples, [1, 777, 4096, 13]);
  expect(cut.low.length).toBe(whole.low.length);
  for (const band of ['low', 'mid', 'high'] as const) whole[band].forEach((x, i) => expect(cut[band][i]).toBeCloseTo(x, 6));
});

it.each([44_100, 48_000, 96_000, 192_000])('peaks within 6 ms of each attack at %i Hz', (rate) => {
  const moments = [0.4, 0.9123, 1.5017, 2.2];
  const { high, mid } = analyse(bursts(moments, 3, rate), [10_000], rate);
  for (const m of moments) {
    let best = 0;
    let at = 0;
    for (let i = Math.round((m - 0.1) * ONSETS_PER_SECOND); i < (m + 0.1) * ONSETS_PER_SECOND; i++) { const x = (high[i] ?? 0) + (mid[i] ?? 0); if (x > best) { best = x; at = i / ONSETS_PER_SECOND; } }
    expect(Math.abs(at - m)).toBeLessThan(0.006);
  }
});

it('keeps curves as bytes and refuses others', () => {
  const curves = analyse(bursts([0.2], 1), [5000]);
  expect(readOnsets(encodeOnsets(curves))).toEqual(curves);
  expect(() => readOnsets(new Uint8Array(7))).toThrow(RangeError);
});

it('curves at another speed are drawn out or together: every attack stays, at its new moment', () => {
  const flat = new Float32Array(1000);
  const hits = [10, 333, 700, 999];
  for (const at of hits) flat[at] = at;
  for (const speed of [0.5, 147 / 160, 160 / 147, 2, 2.2]) {
    const { low } = moveOnsets({ low: flat, mid: flat, high: flat }, 0, speed);
    expect(low.length).toBe(Math.round(1000 / speed));
    for (const at of hits) {
      const near = [...low.entries()].filter(([, x]) => x === at).map(([i]) => i);
      expect(near.length).toBeGreaterThan(0);
      for (const i of near) expect(Math.abs(i * speed - at)).toBeLessThanOrEqual(Math.max(1, speed));
    }
  }
  const later = moveOnsets({ low: flat, mid: flat, high: flat }, 10 / ONSETS_PER_SECOND, 2);
  expect(later.low[5 + 10]).toBe(10);
});
