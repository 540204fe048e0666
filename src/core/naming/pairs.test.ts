import { findPairs, readNames } from './index';

const pairs = (names: readonly string[], lengths = names.map(() => 100)): string[] =>
  findPairs(readNames(names), lengths).map((p) => `${names[p.left]} + ${names[p.right]}`);

it('joins left and right of one source, and nothing else', () => {
  expect(
    pairs(['OH_L_03.wav', 'Kick.wav', 'OH_R_03.wav', 'Room L.wav', 'Room R.wav', 'Gtr 1 L', 'Gtr 2 R']),
  ).toEqual(['OH_L_03.wav + OH_R_03.wav', 'Room L.wav + Room R.wav']);
});
it('wants equal lengths and no third', () => {
  expect(pairs(['OH L', 'OH R'], [100, 101])).toEqual([]);
  expect(pairs(['OH L', 'OH R', 'OH R'])).toEqual([]);
  expect(pairs(['OH L', 'OH R'], [NaN, NaN])).toEqual(['OH L + OH R']);
});
