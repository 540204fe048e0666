import { createRandom } from '../units';
import { createSongMap } from '../time';
import { gridAgreement } from './agreement';

/** A map of one tempo over `bars` bars of four. */
const steady = (bpm: number, bars: number) =>
  createSongMap(
    [
      { quarters: 0, seconds: 1 },
      { quarters: 4 * bars, seconds: 1 + (240 * bars) / bpm },
    ],
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
/** Hits of a band at a tempo, each off by up to `humanMs`; `parts` a pulse. */
function played(bpm: number, bars: number, parts: number, humanMs = 12, seed = 1): number[] {
  const random = createRandom(seed);
  return Array.from(
    { length: 4 * bars * parts },
    (_, i) => 1 + (60 * i) / bpm / parts + ((random() - 0.5) * 2 * humanMs) / 1000,
  ).sort((a, b) => a - b);
}
const states = (bpm: number, hits: readonly number[], bars = 64): Record<string, number> => {
  const count: Record<string, number> = {};
  for (const s of gridAgreement(steady(bpm, bars), hits)) count[s.state] = (count[s.state] ?? 0) + 1;
  return count;
};

it.each([1, 2, 3, 4])('a band on its grid agrees, %i hits a pulse', (parts) => {
  expect(states(118, played(118, 64, parts))).toEqual({ agrees: 16 });
});
it.each([1, 2, 3, 4])('a map that was typed as 118 over a band at 117.3 drifts, %i hits a pulse', (parts) => {
  const count = states(118, played(117.3, 64, parts));
  expect((count.drifts ?? 0) + (count.loose ?? 0)).toBeGreaterThan(parts === 4 ? 4 : 8);
});
it('swung eighths and a band that lays back by 15 ms are on the grid', () => {
  const swung = Array.from(
    { length: 512 },
    (_, i) => 1 + (60 / 100) * (Math.floor(i / 2) + (i % 2) * (2 / 3)),
  );
  expect(states(100, swung)).toEqual({ agrees: 16 });
  expect(
    states(
      100,
      played(100, 64, 2).map((t) => t + 0.015),
    ),
  ).toEqual({ agrees: 16 });
});
it('hits at any place keep to no pulse; bars without hits are not judged', () => {
  const random = createRandom(5);
  const free = Array.from({ length: 200 }, () => 1 + random() * 16).sort((a, b) => a - b);
  const late = played(120, 64, 2).filter((t) => t > 17);
  const found = gridAgreement(steady(120, 64), [...free, ...late]);
  expect(found.filter((s) => s.state === 'loose').map((s) => s.fromBar)).toEqual([1, 5]);
  expect(gridAgreement(steady(120, 64), late)[0]?.fromBar).toBe(9);
  expect(gridAgreement(steady(120, 64), [])).toEqual([]);
});
it('says how far and where', () => {
  const hits = played(120, 16, 2, 0);
  const moved = hits.map((t) => (t >= 9 && t < 17 ? t + 0.06 : t));
  const found = gridAgreement(steady(120, 16), moved);
  expect(found.map((s) => s.state)).toEqual(['agrees', 'drifts', 'agrees', 'agrees']);
  expect(found[1]).toMatchObject({ fromBar: 5, toBar: 8 });
  expect(found[1]?.lateSeconds).toBeCloseTo(0.06, 6);
});
