import type { Lexicon } from '../lexicon/lexicon';
import type { Sense, SenseKind } from '../lexicon/sense';
import { type Atom, isNumber } from './atoms';

/** A name without what all names of its delivery share. */
export interface TrimmedName {
  readonly atoms: readonly Atom[];
  /** What was taken off, outermost first. */
  readonly taken: readonly string[];
}

/** Of so many names, and in this share of them, a word in front or behind is that of the song. */
const LEAST_NAMES = 3;
const SHARE = 0.8;
/** An instrument's word needs more of both: it may head a group. */
const LEAST_NAMES_KNOWN = 8;
const SHARE_KNOWN = 0.85;
/** A number in front needs nearly all; the same number behind (a take, a version) fewer. */
const SHARE_NUMBER_FIRST = 0.9;
const SHARE_NUMBER_LAST = 0.6;
const MOST_WORDS = 7;

const TELLING: ReadonlySet<SenseKind> = new Set<SenseKind>(['part', 'side', 'position', 'role']);
const tells = (s: Sense): boolean => TELLING.has(s.kind);

/** Takes off what nearly all names begin or end with: song, artist, date, version; and the numbers that count files. */
export function withoutShared(names: readonly (readonly Atom[])[], lexicon: Lexicon): TrimmedName[] {
  const trimmed = names.map((atoms) => ({ atoms: [...atoms], taken: [] as string[] }));
  if (names.length > 1) {
    takeOff(trimmed, 'first', lexicon);
    takeCounter(trimmed, SHARE, SHARE);
    if (names.length >= LEAST_NAMES_KNOWN) takeCodes(trimmed);
    takeOff(trimmed, 'last', lexicon);
  }
  const isCounted = names.length >= LEAST_NAMES && takeCounter(trimmed, 0.6, 0.7);
  if (!isCounted)
    for (const name of trimmed) {
      const [first] = name.atoms;
      if (first && name.atoms.length > 1 && /^0\d$/.test(first.key)) dropFirst(name);
    }
  return trimmed;
}

interface Trimming {
  atoms: Atom[];
  readonly taken: string[];
}

function dropFirst(name: Trimming): void {
  name.atoms = name.atoms.slice(1);
  const [first] = name.atoms;
  if (first) name.atoms[0] = { ...first, hard: true };
}

function takeOff(names: Trimming[], end: 'first' | 'last', lexicon: Lexicon): void {
  const at = (name: Trimming): Atom | undefined =>
    name.atoms.length > 1 ? name.atoms.at(end === 'first' ? 0 : -1) : undefined;
  for (let n = 0; n < MOST_WORDS; n++) {
    const counts = new Map<string, number>();
    for (const name of names) {
      const key = at(name)?.key;
      if (key !== undefined) counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    const [word, count] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? ['', 0];
    if (word === '' || count < needed(word, end, names.length, lexicon)) return;
    if (lexicon.of(word).some(tells) && leavesNothing(names, (name) => at(name)?.key === word)) return;
    for (const name of names) {
      if (at(name)?.key !== word) continue;
      name.taken.push(word);
      if (end === 'first') dropFirst(name);
      else name.atoms = name.atoms.slice(0, -1);
    }
  }
}

/** In so many of the names that share a word nothing but numbers is left without it: the word is what they are. */
const NOTHING_LEFT = 0.5;

/** `Vox 1` to `Vox 12`: all voices, and no song of that name. */
function leavesNothing(names: readonly Trimming[], has: (name: Trimming) => boolean): boolean {
  const sharing = names.filter(has);
  const bare = sharing.filter((n) => n.atoms.filter((a) => !isNumber(a)).length < 2);
  return bare.length >= NOTHING_LEFT * sharing.length;
}

function needed(word: string, end: 'first' | 'last', names: number, lexicon: Lexicon): number {
  if (/^\d+$/.test(word))
    return end === 'first' ? SHARE_NUMBER_FIRST * names : Math.max(LEAST_NAMES, SHARE_NUMBER_LAST * names);
  return lexicon.of(word).some(tells)
    ? Math.max(LEAST_NAMES_KNOWN, SHARE_KNOWN * names)
    : Math.max(LEAST_NAMES, SHARE * names);
}

/** Takes numbers off the front that count the files: most names have one, and nearly all are different. */
function takeCounter(names: Trimming[], share: number, different: number): boolean {
  const numbers = names.flatMap((n) => {
    const [first] = n.atoms;
    return first && n.atoms.length > 1 && isNumber(first) ? [first.key] : [];
  });
  if (
    numbers.length === 0 ||
    numbers.length < share * names.length ||
    new Set(numbers).size < different * numbers.length
  )
    return false;
  for (const name of names) {
    const [first] = name.atoms;
    if (first && name.atoms.length > 1 && isNumber(first)) dropFirst(name);
  }
  return true;
}

/** Takes off codes of a letter and a number that count the places of a desk or stage: `A1 Flute`, `B12 Oboe`. */
function takeCodes(names: Trimming[]): void {
  const codeOf = ({ atoms: [letter, number, next] }: Trimming): string | null =>
    letter?.key.length === 1 && number && !number.hard && isNumber(number) && next?.hard
      ? letter.key + number.key
      : null;
  const codes = names.flatMap((n) => codeOf(n) ?? []);
  const letters = new Set(codes.map((c) => c.charAt(0)));
  if (codes.length < SHARE * names.length || new Set(codes).size < codes.length || letters.size < 2) return;
  for (const name of names)
    if (codeOf(name) !== null) {
      dropFirst(name);
      dropFirst(name);
    }
}
