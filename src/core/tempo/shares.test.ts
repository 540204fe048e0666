import { sharesOf } from './shares';
import type { Stream } from './streams';

const BEATS = [1, 1.5, 2, 2.5];
const stream = (role: Stream['role'], hits: readonly (readonly [number, number, number])[]): Stream => {
  const own = hits.map(([t, s, track]) => ({ t, s, track }));
  return {
    role,
    swells: false,
    seconds: [...new Set(hits.map(([t]) => t))],
    strength: [...new Set(hits.map(([t]) => t))].map((t) =>
      Math.max(...own.filter((h) => h.t === t).map((h) => h.s)),
    ),
    own,
  };
};
const byStrength = (_: Stream, strength: number): number => strength;

it('counts what lies on pulses, by its weight; what several strike together counts once and is shared', () => {
  // By hand: track 0 alone at 1 and 1.5 (1 each); tracks 1 and 2 together at 2, counting 0.8, shared 0.8 : 0.2; track 3 half a pulse off.
  const shares = sharesOf(
    BEATS,
    [
      stream('kick', [
        [1, 1, 0],
        [1.5, 1, 0],
      ]),
      stream('snare', [
        [2, 0.8, 1],
        [2, 0.2, 2],
      ]),
      stream('hat', [
        [1.25, 1, 3],
        [2.25, 1, 3],
      ]),
    ],
    5,
    byStrength,
  );
  const total = 2 + 0.8;
  [2, 0.64, 0.16, 0, 0].forEach((x, i) => expect(shares[i]).toBeCloseTo(x / total, 12));
});

it('is nothing where nothing is struck at the pulses', () => {
  expect(sharesOf(BEATS, [stream('hat', [[1.25, 1, 0]])], 2, byStrength)).toEqual([0, 0]);
  expect(sharesOf(BEATS, [], 1, byStrength)).toEqual([0]);
});
