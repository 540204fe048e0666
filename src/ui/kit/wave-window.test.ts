import { createRandom } from '@/core/units';
import { fitted, panned, rulerStep, zoomed } from './wave-window';

const limits = { lengthSeconds: 200, shortestSeconds: 0.001 };

it('zooms about a place that stays where it is, between the whole song and a few samples (seed 5)', () => {
  const random = createRandom(5);
  let w = { from: 0, to: 200 };
  for (let n = 0; n < 2000; n++) {
    const at = w.from + random() * (w.to - w.from);
    const share = (at - w.from) / (w.to - w.from);
    const next = zoomed(w, 0.3 + random() * 1.5, at, limits);
    const length = next.to - next.from;
    expect(length).toBeGreaterThanOrEqual(limits.shortestSeconds - 1e-12);
    expect(next.from).toBeGreaterThanOrEqual(0);
    expect(next.to).toBeLessThanOrEqual(200 + 1e-9);
    if (next.from > 1e-9 && next.to < 200 - 1e-9) expect((at - next.from) / length).toBeCloseTo(share, 6);
    w = next;
  }
});

it('stays inside the song when moved', () => {
  expect(panned({ from: 10, to: 20 }, 0.5, limits)).toEqual({ from: 15, to: 25 });
  expect(panned({ from: 195, to: 200 }, 1, limits)).toEqual({ from: 195, to: 200 });
  expect(panned({ from: 2, to: 12 }, -1, limits)).toEqual({ from: 0, to: 10 });
  expect(fitted({ from: -5, to: 500 }, limits)).toEqual({ from: 0, to: 200 });
});

it('puts round steps on the ruler, at least as far apart as asked', () => {
  for (const perPx of [1e-7, 3e-6, 1e-4, 0.01, 0.2, 1])
    expect(rulerStep(perPx, 80) / perPx).toBeGreaterThanOrEqual(80 - 1e-6);
  expect(rulerStep(200 / 1000, 80)).toBe(30);
  expect(rulerStep(0.001, 80)).toBeCloseTo(0.1, 9);
});
