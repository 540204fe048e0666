import { bell, everySeconds } from '../../../tests/support/made-streams';
import { createRandom } from '../units';
import { fitGrid, rounded, type SteadyGrid } from './steady';

const places = Array.from({ length: 200 }, (_, i) => i);
function playedTo(moments: readonly number[], spread: number, seed: number) {
  const random = createRandom(seed);
  return moments.map((t) => ({ seconds: t + spread * bell(random), spread }));
}

it('finds the tempo of players around a click within what they leave open (seeds 1–10)', () => {
  for (let seed = 1; seed <= 10; seed++) {
    const truth = everySeconds(2, 60 / 117.3, 200);
    const grid = fitGrid(places, playedTo(truth, 0.008, seed), truth) as SteadyGrid;
    expect(Math.abs(60 / grid.quarterSeconds - 117.3)).toBeLessThan(0.01);
    expect(Math.abs(grid.offsetSeconds - 2)).toBeLessThan(0.003);
  }
});

it('never calls a tempo steady that moves away, bends or steps', () => {
  const shapes: ((i: number) => number)[] = [
    (i) => 1 + 0.01 * Math.sin(i / 20),
    (i) => 1 + 0.0004 * i,
    (i) => (i < 100 ? 1 : 1.02),
    (i) => (i < 190 ? 1 : 1.2),
  ];
  for (const shape of shapes) {
    const truth = [1];
    for (let i = 0; i < 199; i++) truth.push((truth.at(-1) as number) + 0.5 * shape(i));
    expect(fitGrid(places, playedTo(truth, 0.006, 3), truth)).toBeNull();
  }
});

it('says nothing of too few pulses', () => {
  expect(
    fitGrid(places.slice(0, 20), playedTo(everySeconds(0, 0.5, 20), 0.001, 1), everySeconds(0, 0.5, 20)),
  ).toBeNull();
});

it('prefers a round tempo that fits as well, and only then; the middle stays', () => {
  const grid = (bpm: number, error: number): SteadyGrid => ({
    offsetSeconds: 1,
    quarterSeconds: 60 / bpm,
    error,
  });
  const near = rounded(grid(112.493, 1e-4), 1, 100);
  expect(60 / near.quarterSeconds).toBeCloseTo(112.5, 9);
  // By hand: 100 quarters of 60 / 112.493 s from 1 s on.
  expect(near.offsetSeconds + 100 * near.quarterSeconds).toBeCloseTo(1 + 6000 / 112.493, 9);
  expect(rounded(grid(112.46, 1e-4), 1, 100).quarterSeconds).toBe(60 / 112.46);
  expect(rounded(grid(112.493, 1e-7), 1, 100).quarterSeconds).toBe(60 / 112.493);
  // Dotted quarters: 90 pulses a minute are 135 quarters.
  expect(
    60 / rounded({ offsetSeconds: 0, quarterSeconds: 60 / 135.004, error: 1e-4 }, 1.5, 50).quarterSeconds,
  ).toBeCloseTo(135, 9);
});
