import { CLICK_SOUNDS, type ClickBeat } from '../time';
import { CLICK_SECONDS, clickSample, renderClick } from './index';

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
