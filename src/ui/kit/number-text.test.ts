import { readNumber } from './number-text';

const DB = { min: -60, max: 12, unit: 'dB' };

it.each([
  ['-3', -3],
  ['−3', -3],
  ['– 3,5 dB', -3.5],
  ['2.50DB', 2.5],
  ['.5', 0.5],
  ['+6', 6],
  ['０', 0],
  ['+=1', -5],
  ['-=1,5', -7.5],
  ['−= 0.1', -6.1],
])('reads %s', (text, value) => expect(readNumber(text, DB, -6)).toEqual({ value }));

it.each([
  ['', 'Nothing typed'],
  ['loud', 'Not a number'],
  ['1.2.3', 'Not a number'],
  ['1e9', 'Not a number'],
  ['3 ms', 'Not a number'],
  ['Infinity', 'Not a number'],
  ['-61', 'At least −60 dB'],
  ['+=100', 'At most 12 dB'],
])('says what is wrong with “%s”', (text, words) =>
  expect((readNumber(text, DB) as { error: string }).error).toContain(words),
);

it('tells thousands from decimals by what can be meant', () => {
  const samples = { min: -(2 ** 40), max: 2 ** 40 };
  for (const [text, value] of [
    ['48,000', 48_000],
    ['-1,234,567', -1_234_567],
    ['48 000', 48_000],
    ["1'000", 1000],
    ['48,0001', 48.0001],
    ['+=1,000', 1500],
    ['2.5', 2.5],
  ] as const)
    expect([text, readNumber(text, samples, 500)]).toEqual([text, { value }]);
  expect(readNumber('1,250', DB)).toEqual({ value: 1.25 });
});
