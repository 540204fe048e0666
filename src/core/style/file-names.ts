import { otherScripts } from '#style-libraries';
import type { Family } from '../naming';
import type { HouseStyle } from './house-style';

const RESERVED = /^(con|prn|aux|nul|com[1-9]|lpt[1-9])$/i;

/** Letters that are no other letter with a mark. */
const OWN_LETTERS: Readonly<Record<string, string>> = {
  ...{ ß: 'ss', Æ: 'Ae', æ: 'ae', Ø: 'O', ø: 'o', Œ: 'Oe', œ: 'oe' },
  ...{ Ð: 'D', ð: 'd', Đ: 'D', đ: 'd', Þ: 'Th', þ: 'th', Ł: 'L', ł: 'l', ı: 'i' },
};

/** A word of the Latin script without marks; null where it holds anything else. */
function withoutMarks(word: string): string | null {
  const plain = word
    .replace(/\P{ASCII}/gu, (letter) => OWN_LETTERS[letter] ?? letter)
    .normalize('NFD')
    .replace(/\p{M}+/gu, '');
  return /^[\x20-\x7e]*$/.test(plain) ? plain : null;
}

/** Runs of letters, marks and digits. */
const WORDS = /[\p{L}\p{M}\p{N}]+/gu;

/** A text in Latin letters without accents: names in other scripts are spelt out (any-ascii), so that they do not vanish. */
const inLatin = (text: string): string =>
  text.normalize('NFC').replace(WORDS, (word) => withoutMarks(word) ?? otherScripts()?.(word) ?? word);

/** Whether some of these texts become names of files only by {@link otherScripts}. */
export const holdsOtherScripts = (texts: readonly string[]): boolean =>
  texts.some((text) =>
    (text.normalize('NFC').match(WORDS) ?? []).some((word) => withoutMarks(word) === null),
  );

/**
 * Base name of a delivered file: family word and name, only `A–Z a–z 0–9 _ -`, never reserved, at most the style's length.
 * Rules: formats common to Windows, macOS and Linux (common practice, no source).
 */
export function fileNameFor(
  style: HouseStyle,
  track: { readonly name: string; readonly family: Family },
): string {
  const plain = (text: string): string =>
    inLatin(text)
      .replace(/&/g, ' and ')
      .replace(/[^A-Za-z0-9_-]+/g, ' ')
      .trim();
  const words = plain(track.name)
    .split(' ')
    .filter(Boolean)
    .map((w) => w.charAt(0).toUpperCase() + w.slice(1));
  const group = style.fileWords[track.family];
  const body = words.join(style.fileJoin) || 'Track';
  const full = body.toLowerCase().startsWith(group.toLowerCase()) ? body : `${group}_${body}`;
  const short = full.slice(0, style.maxFileNameLength).replace(/[_-]+$/, '');
  return RESERVED.test(short) ? `${short}_` : short;
}

/** A text as a word of a file name: letters without accents, digits and hyphens; empty where nothing is left. */
export const fileNameWord = (text: string): string =>
  inLatin(text)
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 40);

/** Name of a package's folder: `Artist_Song_v2`, only letters, digits, `-` and `_`. */
export function packageFolderName(artist: string, name: string, number: number): string {
  return [fileNameWord(artist), fileNameWord(name) || 'Song', `v${number}`].filter((x) => x !== '').join('_');
}
