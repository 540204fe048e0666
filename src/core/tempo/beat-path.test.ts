import { createRandom } from '../units';
import { findBeatPath, PATH_PER_SECOND } from './beat-path';

/** Short bumps at given frames over a faint floor. */
function bumps(frames: readonly number[], length: number, seed: number): Float32Array {
  const random = createRandom(seed);
  const out = Float32Array.from({ length }, () => 0.05 * random());
  for (const f of frames) {
    out[f] = 0.9;
    if (f + 1 < length) out[f + 1] = 0.6;
  }
  return out;
}

it('walks through a steady row of beats', () => {
  const truth = Array.from({ length: 30 }, (_, i) => 20 + 50 * i);
  const { frames } = findBeatPath(bumps(truth, 1540, 1), 40, 62);
  for (const t of truth.slice(1, -1)) expect(frames.some((f) => Math.abs(f - t) <= 1)).toBe(true);
  expect(Math.abs(frames.length - truth.length)).toBeLessThanOrEqual(1);
});

it('follows a tempo that changes from beat to beat', () => {
  const truth = [10];
  for (let i = 0; i < 40; i++) truth.push((truth.at(-1) as number) + Math.round(52 + 6 * Math.sin(i / 6)));
  const { frames } = findBeatPath(bumps(truth, (truth.at(-1) as number) + 40, 2), 42, 63);
  const hit = truth.filter((t) => frames.some((f) => Math.abs(f - t) <= 2)).length;
  expect(hit / truth.length).toBeGreaterThan(0.95);
});

it('keeps counting through a gap', () => {
  const truth = Array.from({ length: 40 }, (_, i) => 15 + 48 * i);
  const heard = truth.filter((_, i) => i < 16 || i > 21);
  const { frames } = findBeatPath(bumps(heard, 1950, 3), 40, 58);
  const missing = truth.slice(16, 22);
  for (const t of missing) expect(frames.some((f) => Math.abs(f - t) <= 5)).toBe(true);
});

it('scores a row of beats above noise', () => {
  const truth = Array.from({ length: 30 }, (_, i) => 20 + 50 * i);
  const random = createRandom(4);
  const noise = Float32Array.from({ length: 1540 }, () => 0.3 * random());
  expect(findBeatPath(bumps(truth, 1540, 5), 40, 62).score).toBeGreaterThan(
    findBeatPath(noise, 40, 62).score,
  );
  expect(PATH_PER_SECOND).toBe(100);
});

it('gives beats in rising order with allowed distances only (seeds 1–10)', () => {
  for (let seed = 1; seed <= 10; seed++) {
    const random = createRandom(seed);
    const { frames } = findBeatPath(
      Float32Array.from({ length: 900 }, () => random()),
      30,
      45,
    );
    frames.slice(1).forEach((f, i) => {
      const apart = f - (frames[i] as number);
      expect(apart).toBeGreaterThanOrEqual(30);
      expect(apart).toBeLessThanOrEqual(45);
    });
  }
});
