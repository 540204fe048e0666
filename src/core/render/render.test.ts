import type { AudioBlock } from '../audio';
import { createRandom } from '../units';
import { CLICK_SOUNDS, type ClickBeat } from '../time';
import { CLICK_SECONDS, clickSample, placeBlocks, renderClick } from './index';

/** A recording in blocks of odd sizes. */
async function* blocksOf(samples: Float32Array, sizes: () => number): AsyncGenerator<AudioBlock> {
  for (let at = 0; at < samples.length;) {
    const end = Math.min(samples.length, at + sizes());
    yield { startFrames: at, channels: [samples.subarray(at, end)] };
    at = end;
  }
}

async function placed(
  samples: Float32Array,
  startFrames: number,
  lengthFrames: number,
  sizes: () => number,
): Promise<number[]> {
  const out: number[] = [];
  for await (const block of placeBlocks(blocksOf(samples, sizes), { channels: 1, startFrames, lengthFrames }))
    out.push(...(block[0] as Float32Array));
  return out;
}

describe('placeBlocks', () => {
  it('equals plain copying for any place, length and block size (seed 17)', async () => {
    const random = createRandom(17);
    for (let round = 0; round < 200; round++) {
      const samples = Float32Array.from({ length: 1 + Math.floor(random() * 60) }, (_, i) => i + 1);
      const start = Math.floor(random() * 80) - 30;
      const length = Math.floor(random() * 100);
      const want = new Array<number>(length).fill(0);
      samples.forEach((x, i) => {
        if (start + i >= 0 && start + i < length) want[start + i] = x;
      });
      expect(await placed(samples, start, length, () => 1 + Math.floor(random() * 9))).toEqual(want);
    }
  });
  it('gives silence of the full length for a recording that lies beyond the end', async () => {
    expect(await placed(Float32Array.of(1, 2), 10, 4, () => 1)).toEqual([0, 0, 0, 0]);
  });
});

describe('renderClick', () => {
  const RATE = 48_000;
  const all = (beats: readonly ClickBeat[], frames: number): Float32Array => {
    const out = new Float32Array(frames);
    let at = 0;
    for (const [block] of renderClick(beats, RATE, frames)) {
      out.set(block as Float32Array, at);
      at += (block as Float32Array).length;
    }
    expect(at).toBe(frames);
    return out;
  };
  it('begins each stroke at its frame, silent before', () => {
    const x = all(
      [
        { seconds: 0.5, stroke: 'accent' },
        { seconds: 1.25, stroke: 'pulse' },
      ],
      2 * RATE,
    );
    expect(x.slice(0, 24_000).every((v) => v === 0)).toBe(true);
    expect(x[24_000]).toBeCloseTo(0.5, 6);
    expect(x[60_000]).toBeCloseTo(0.35, 6);
  });
  it('accents a downbeat: louder', () => {
    const x = all(
      [
        { seconds: 0, stroke: 'accent' },
        { seconds: 0.5, stroke: 'pulse' },
      ],
      RATE,
    );
    const peak = (from: number): number =>
      x.slice(from, from + 1000).reduce((a, v) => Math.max(a, Math.abs(v)), 0);
    expect(peak(0)).toBeGreaterThan(1.3 * peak(24_000));
  });
  it('is the same when a stroke crosses two blocks', () => {
    const seam = 65_536 / RATE;
    const x = all([{ seconds: seam - 0.01, stroke: 'pulse' }], 70_000);
    const y = all([{ seconds: 0.5, stroke: 'pulse' }], 70_000);
    const from = Math.round((seam - 0.01) * RATE);
    for (let i = 0; i < 1400; i++) expect(x[from + i]).toBeCloseTo(y[24_000 + i] as number, 1);
  });
  it('has nothing to say without beats', () => {
    expect(all([], 100).every((v) => v === 0)).toBe(true);
  });
});

describe('sounds of the click', () => {
  const peakOf = (sound: (typeof CLICK_SOUNDS)[number], stroke: 'accent' | 'pulse' | 'part'): number =>
    Math.max(...Array.from({ length: 1440 }, (_, i) => Math.abs(clickSample(sound, stroke, i / 48_000))));
  it.each(CLICK_SOUNDS)(
    '%s: begins at its edge, never over full scale, gone at its end, parts below pulses below downbeats',
    (sound) => {
      expect(Math.abs(clickSample(sound, 'accent', 0))).toBeCloseTo(1, 6);
      expect(peakOf(sound, 'accent')).toBeLessThanOrEqual(1);
      expect(peakOf(sound, 'pulse')).toBeLessThan(peakOf(sound, 'accent'));
      expect(peakOf(sound, 'part')).toBeLessThan(peakOf(sound, 'pulse'));
      expect(Math.abs(clickSample(sound, 'accent', CLICK_SECONDS))).toBeLessThan(0.01);
      expect(clickSample(sound, 'pulse', 0.004)).toBe(clickSample(sound, 'pulse', 0.004));
    },
  );
});
