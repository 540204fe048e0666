import anyAscii from 'any-ascii';
import { DEFAULT_STYLE, fileNameFor, fileNameWord, packageFolderName } from './index';

const named = (name: string, family: Parameters<typeof fileNameFor>[1]['family'] = 'drums'): string =>
  fileNameFor(DEFAULT_STYLE, { name, family });

it.each([
  ['Kick In', 'Drums_KickIn'],
  ['Drums', 'Drums'],
  ['Overhead L', 'Drums_OverheadL'],
  ['Tom & Jerry', 'Drums_TomAndJerry'],
  ['Größe', 'Drums_Grosse'],
  ['../../etc', 'Drums_Etc'],
  ['☃', 'Drums_Track'],
  ['snare top', 'Drums_SnareTop'],
])('%s → %s', (name, want) => {
  expect(named(name)).toBe(want);
});

it('carries the word of its family, once', () => {
  expect(named('Bass DI', 'bass')).toBe('BassDI');
  expect(named('Double Bass', 'bass')).toBe('Bass_DoubleBass');
  expect(named('Rough Mix', 'reference')).toBe('Ref_RoughMix');
});

it('is cut to the style’s length, never at a separator', () => {
  const long = named('The Very Long Name Of A Snare Drum In A Shed');
  expect(long.length).toBeLessThanOrEqual(31);
  expect(long).toMatch(/[A-Za-z0-9]$/);
  expect(fileNameFor({ ...DEFAULT_STYLE, maxFileNameLength: 8 }, { name: 'Kick', family: 'drums' })).toBe(
    'Drums_Ki',
  );
  expect(fileNameFor({ ...DEFAULT_STYLE, maxFileNameLength: 6 }, { name: 'Kick', family: 'drums' })).toBe(
    'Drums',
  );
});

// Spellings as ISO 9 (Cyrillic, without its accents), ELOT 743 (Greek), Hepburn (kana), Pinyin and Revised Romanization give them; from memory.
it.each([
  ['Голос', 'LdVox_Golos'],
  ['Κιθάρα 2', 'LdVox_Kithara2'],
  ['ピアノ', 'LdVox_Piano'],
  ['鼓', 'LdVox_Gu'],
  ['Grüße', 'LdVox_Grusse'],
  ['Žižkov', 'LdVox_Zizkov'],
  ['हारमोनियम', 'LdVox_Harmoniym'],
])('a name in any script is spelt out: %s', (name, file) => {
  const made = fileNameFor({ ...DEFAULT_STYLE, fileJoin: '' }, { name, family: 'lead-vocal' });
  expect(made).toMatch(/^[A-Za-z0-9_-]+$/);
  expect(made.replace(DEFAULT_STYLE.fileWords['lead-vocal'], 'LdVox')).toBe(file);
});

it('a package in any script has a folder of its own', () => {
  expect(packageFolderName('Воздух', '海 2', 3)).toMatch(/^Vozdukh_Hai-2_v3$/);
  expect(fileNameWord('…')).toBe('');
});

it('Latin letters are read as the large table has them, without the table', () => {
  const letters = Array.from({ length: 0x2fff }, (_, i) => String.fromCodePoint(i + 0x80)).filter((c) =>
    /[\p{L}\p{N}]/u.test(c),
  );
  const differs = letters
    .map((c) => [c.normalize('NFC'), fileNameWord(c)] as const)
    .filter(
      ([c, word]) =>
        word !==
        anyAscii(c)
          .replace(/[^A-Za-z0-9]+/g, '-')
          .replace(/^-+|-+$/g, '')
          .slice(0, 40),
    );
  expect([letters.length > 5000, differs]).toEqual([true, []]);
});
it('a page has the table fetched only for other scripts', async () => {
  jest.resetModules();
  jest.doMock('#style-libraries', () => jest.requireActual('./libraries/on-demand'));
  const page = await import('./index');
  expect(page.holdsOtherScripts(['Überhöhung ß Ñandú Łódź', 'Œuvre 2', '—'])).toBe(false);
  expect(page.fileNameWord('Łódź ß')).toBe('Lodz-ss');
  expect(page.holdsOtherScripts(['Kick', 'Гитара'])).toBe(true);
  expect(page.fileNameWord('Гитара')).toBe('');
  await page.fetchOtherScripts();
  expect(page.fileNameWord('Гитара')).toBe('Gitara');
  const style = {
    ...page.DEFAULT_STYLE,
    lenses: [{ key: 'a', name: 'A', when: { not: { any: [{ nameMatches: '^k' }] } } }],
  };
  expect([page.needsPatternEngine(page.DEFAULT_STYLE), page.needsPatternEngine(style)]).toEqual([
    false,
    true,
  ]);
  expect(page.patternOf('(')).toBeUndefined();
  await page.fetchPatternEngine();
  expect([page.needsPatternEngine(style), page.patternOf('('), page.patternOf('^k') === null]).toEqual([
    false,
    null,
    false,
  ]);
});
