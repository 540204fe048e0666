import { createRandom } from '../units';
import { NO_RENAME, type Rename, renameAll } from './index';

const renamed = (names: readonly string[], change: Partial<Rename>): readonly string[] => {
  const r = renameAll(names, { ...NO_RENAME, ...change });
  if (!r.ok) throw new Error(r.error.reason);
  return r.value;
};

it('finds and replaces as written, whatever it looks like', () => {
  expect(renamed(['Gtr (1).L', 'gtr 2'], { find: 'gtr', replace: 'Guitar' })).toEqual([
    'Guitar (1).L',
    'Guitar 2',
  ]);
  expect(renamed(['Gtr (1).L', 'gtr 2'], { find: 'gtr', replace: 'Guitar', minds: true })).toEqual([
    'Gtr (1).L',
    'Guitar 2',
  ]);
  expect(renamed(['a.b', 'axb'], { find: '.', replace: '$1 $$' })).toEqual(['a$1 $$b', 'axb']);
});
it('patterns with groups; a group that is not there stays as written', () => {
  expect(
    renamed(['03_kick', '12_snare'], { find: '^(\\d+)_(\\w+)$', replace: '$2 $1', isPattern: true }),
  ).toEqual(['kick 03', 'snare 12']);
  expect(renamed(['Kick'], { find: '(K)', replace: '$1$7', isPattern: true })).toEqual(['K$7ick$7']);
});
it('before, after, letters and numbers, in this order', () => {
  expect(renamed(['kick in', 'OH l', 'BIG tom'], { letters: 'Each Word' })).toEqual([
    'Kick In',
    'OH L',
    'BIG Tom',
  ]);
  expect(
    renamed(['Tom', 'Tom'], {
      before: 'DR ',
      after: ' close',
      number: { first: 9, digits: 2 },
      letters: 'capitals',
    }),
  ).toEqual(['DR TOM close 09', 'DR TOM close 10']);
  expect(renamed(['Ça'], { letters: 'small' })).toEqual(['ça']);
});
it('no name becomes empty, longer than 120 characters, or holds what cannot be seen', () => {
  expect(renamed(['Kick', 'K'], { find: 'k', replace: '' })).toEqual(['ic', 'K']);
  expect(renamed(['a'], { after: `\u0000${'x'.repeat(300)}` })[0]).toHaveLength(120);
});
it('a pattern that cannot be read is refused in words', () => {
  expect(renameAll(['a'], { ...NO_RENAME, find: '(', isPattern: true })).toEqual({
    ok: false,
    error: { code: 'rename.pattern', reason: 'missing closing ): `(`' },
  });
  expect(renameAll(['a'], { ...NO_RENAME, find: 'a'.repeat(501) })).toMatchObject({ ok: false });
});
it('patterns that would take for ever elsewhere do not here, and plain search is that of the platform (seed 11)', () => {
  expect(renamed(['a'.repeat(119) + 'b'], { find: '(a+)+$', replace: 'x', isPattern: true })).toEqual([
    'a'.repeat(119) + 'b',
  ]);
  const random = createRandom(11);
  const text = (n: number): string =>
    Array.from({ length: n }, () => 'aAb.$(_'[Math.floor(7 * random())]).join('');
  for (let i = 0; i < 500; i++) {
    const [name, find, replace] = [text(20), text(1 + Math.floor(3 * random())), text(2)];
    expect(renamed([name], { find, replace, minds: true })).toEqual([
      name.replaceAll(find, () => replace) || name,
    ]);
  }
});
