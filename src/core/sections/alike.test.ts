import { createRandom } from '../units';
import { groupAlike } from './alike';

const byLetters = (letters: string) => (a: number, b: number) => (letters[a] === letters[b] ? 2 : -2);

it('groups what is alike, in order of appearance', () => {
  expect(groupAlike(6, byLetters('vcvcbc'))).toEqual([0, 1, 0, 1, 2, 1]);
  expect(groupAlike(1, () => 1)).toEqual([0]);
  expect(groupAlike(0, () => 1)).toEqual([]);
});

it('goes by the mean of all pairs, so that one doubtful pair joins nothing', () => {
  const odds = (a: number, b: number): number =>
    [a, b].sort().join() === '1,2' ? 0.5 : a < 2 === b < 2 ? 3 : -3;
  expect(groupAlike(4, odds)).toEqual([0, 0, 1, 1]);
});

it('does not depend on the order in which sections are told', () => {
  const random = createRandom(9);
  for (let n = 0; n < 20; n++) {
    const letters = Array.from({ length: 9 }, () => 'abc'[Math.floor(3 * random())] as string);
    const noise = letters.map(() => letters.map(() => random() - 0.5));
    const odds = (a: number, b: number): number =>
      (letters[a] === letters[b] ? 2 : -2) + (noise[Math.min(a, b)]?.[Math.max(a, b)] as number);
    const groups = groupAlike(9, odds);
    const turned = groupAlike(9, (a, b) => odds(8 - a, 8 - b)).reverse();
    for (let i = 0; i < 9; i++)
      for (let j = 0; j < i; j++) expect(groups[i] === groups[j]).toBe(turned[i] === turned[j]);
  }
});
