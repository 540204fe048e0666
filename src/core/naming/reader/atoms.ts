import { fold, keyOf } from '../lexicon/fold';
import { stripExtension, toSafeText, withoutClaims } from '../tokens';

/** The smallest piece of a name: letters or digits that nothing separates. */
export interface Atom {
  /** Folded. */
  readonly key: string;
  /** As it stood in the name. */
  readonly shown: string;
  /** Whether a separator stands before it; else only a change of case or to digits. */
  readonly hard: boolean;
}

const PIECE = /\p{L}[\p{L}\p{M}]*|\d+/gu;
const ALL_DIGITS = /^\d+$/;

/** Whether an atom is a number. */
export const isNumber = (atom: Pick<Atom, 'key'>): boolean => ALL_DIGITS.test(atom.key);

const isUpper = (c: string): boolean => c !== c.toLowerCase();
const isLower = (c: string): boolean => c !== c.toUpperCase();

/** `KickIn` → Kick, In; `OHLeft` → OH, Left; `BVs` stays. */
function atCapitals(word: string): string[] {
  const letters = Array.from(word);
  const out: string[] = [];
  let current = letters[0] ?? '';
  for (let i = 1; i < letters.length; i++) {
    const [before, here, after] = [letters[i - 1] as string, letters[i] as string, letters[i + 1] ?? ''];
    const startsWord = isUpper(before) && isLower(after) && letters.length - i > 2;
    if (isUpper(here) && (isLower(before) || startsWord)) {
      out.push(current);
      current = here;
    } else current += here;
  }
  return [...out, current];
}

/** Splits a text at separators, at capitals, and between letters and digits. */
export function atomsOf(text: string): Atom[] {
  const atoms: Atom[] = [];
  let end = -1;
  for (const found of text.replace(/(?<=\p{L})['’](?=\p{L})/gu, '').matchAll(PIECE)) {
    const isHard = found.index > end;
    end = found.index + found[0].length;
    const pieces = ALL_DIGITS.test(found[0]) ? [found[0]] : atCapitals(found[0]);
    pieces.forEach((shown, i) => {
      const key = keyOf(shown) || fold(shown);
      if (key !== '') atoms.push({ key, shown, hard: atoms.length === 0 || (isHard && i === 0) });
    });
  }
  return atoms;
}

/** `4m12`: reel and number of a piece of film music; says nothing of the source. */
const CUE = /(?<![\p{L}\d])\d{1,2}m\d{1,3}[a-z]?(?![\p{L}\d])/giu;

/** A received name taken apart: folders from the outermost, and what the file itself is called. */
export function partsOfPath(name: string): { readonly folders: readonly string[]; readonly base: string } {
  const segments = name
    .replaceAll('\\', '/')
    .split('/')
    .filter((s) => s.trim() !== '' && s !== '.' && s !== '..');
  return {
    folders: segments.slice(0, -1),
    base: withoutClaims(toSafeText(stripExtension(segments.at(-1) ?? name))).replace(CUE, ' '),
  };
}
