/** Letters whose mark is no mark to Unicode. */
const LETTERS: Readonly<Record<string, string>> = {
  ß: 'ss',
  ø: 'o',
  æ: 'ae',
  œ: 'oe',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ı: 'i',
};

const PLAIN = /^[\u0000-\u007f]*$/;

/** Lower case, without marks, apostrophes and signs of ordinals: `Flügel` → `flugel`. Spaces stay. */
export const fold = (text: string): string =>
  PLAIN.test(text)
    ? text.toLowerCase().replaceAll("'", '')
    : text
        .toLowerCase()
        .normalize('NFD')
        .replace(/[\p{M}'’ªº°]/gu, '')
        .replace(/[ßøæœłđðþı]/g, (c) => LETTERS[c] ?? c);

/** What a word or phrase is found by: its letters and digits, folded, without what stands between them. */
export const keyOf = (text: string): string => fold(text).replace(/[^\p{L}\p{N}#]/gu, '');

/** Marked vowels as they are written where there are no marks. */
const SPELT: Readonly<Record<string, string>> = { ä: 'ae', ö: 'oe', ü: 'ue', ø: 'oe', å: 'aa' };

/** All keys of an alias: `Flügel` is found as `flugel` and as `fluegel`. */
export function keysOf(alias: string): string[] {
  if (PLAIN.test(alias)) return [keyOf(alias)].filter((k) => k !== '');
  const spelt = alias
    .normalize('NFC')
    .toLowerCase()
    .replace(/[äöüøå]/g, (c) => SPELT[c] ?? c);
  return [...new Set([keyOf(alias), keyOf(spelt)])].filter((k) => k !== '');
}
