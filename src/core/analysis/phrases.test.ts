import { loudestStretch, PeakPyramid, phrases } from './index';

const RATE = 48_000;
/** Tone at a level for each stretch [from, to, level]. */
const level = (seconds: number, parts: readonly (readonly [number, number, number])[]) => {
  const x = new Float32Array(seconds * RATE);
  for (const [from, to, l] of parts)
    for (let i = Math.round(from * RATE); i < to * RATE; i++) x[i] = l * Math.sin(i / 7);
  const pyramid = new PeakPyramid();
  pyramid.push([x]);
  const found = pyramid.finish().find((p) => p.framesPerEntry === 1024);
  if (!found) throw new Error('no such level');
  return found;
};

it('finds phrases between pauses; short pauses and stray clicks make none', () => {
  const found = phrases(
    level(20, [
      [2, 4, 0.5],
      [4.3, 6, 0.3],
      [9, 9.01, 0.4],
      [12, 15, 0.4],
    ]),
    RATE,
  );
  expect(found.map((p) => [Math.round(p.from * 10) / 10, Math.round(p.to * 10) / 10])).toEqual([
    [2, 6],
    [12, 15],
  ]);
  expect(phrases(level(3, []), RATE)).toEqual([]);
});

it('finds the loudest four seconds, and the first of equal ones', () => {
  expect(
    loudestStretch(
      level(30, [
        [1, 10, 0.2],
        [14, 18, 0.6],
        [20, 22, 0.7],
      ]),
      RATE,
      4,
    ),
  ).toBeCloseTo(14, 1);
  expect(loudestStretch(level(2, [[0, 2, 0.2]]), RATE, 4)).toBe(0);
});
