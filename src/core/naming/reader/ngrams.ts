import { type Atom, isNumber } from './atoms';

/** Rows of the model; what is seen in a name falls on one of them by its hash, several things may share one. */
export const ROWS = 1 << 13;
const [SHORTEST, LONGEST] = [3, 5];

/** FNV-1a, 32 bits, folded. Source: Fowler, Noll, Vo, from memory. */
function rowOf(kind: string, text: string): number {
  let hash = 0x811c9dc5;
  for (const part of [kind, text])
    for (let i = 0; i < part.length; i++) hash = Math.imul(hash ^ part.charCodeAt(i), 0x01000193);
  return (hash ^ (hash >>> 15) ^ (hash >>> 26)) & (ROWS - 1);
}

/** Words of a name as a person would count them, folded, every number as `#`. */
function wordsOf(atoms: readonly Atom[]): string[] {
  const words: string[] = [];
  for (const { key, hard } of atoms) {
    const text = isNumber({ key }) ? '#' : key;
    if (hard || words.length === 0) words.push(text);
    else words[words.length - 1] += text;
  }
  return words;
}

/** A word that so many names have, and this share of them, tells none of them from the others. */
const LEAST_NAMES = 3;
const SHARED = 0.8;
const LEAST_LETTERS = 2;

/** The names of a delivery without the words that nearly all of them have; whole where nothing else would be left. */
export function withoutCommon(names: readonly (readonly Atom[])[]): readonly (readonly Atom[])[] {
  if (names.length < LEAST_NAMES) return names;
  const counts = new Map<string, number>();
  for (const atoms of names)
    for (const key of new Set(atoms.map((a) => a.key))) counts.set(key, (counts.get(key) ?? 0) + 1);
  return names.map((atoms) => {
    const left = atoms.filter((a) => (counts.get(a.key) ?? 0) < Math.max(LEAST_NAMES, SHARED * names.length));
    return left.some((a) => !isNumber(a) && a.key.length >= LEAST_LETTERS) ? left : atoms;
  });
}

/**
 * What the model sees in a name, as rows: its words, which stand first, last and beside each other, the runs of three to five letters in them, and each word together with what else the delivery holds.
 * `around`: families of the other names.
 */
export function rowsOf(atoms: readonly Atom[], around: readonly string[]): number[] {
  const words = wordsOf(atoms);
  const rows = new Set<number>();
  words.forEach((word, i) => {
    rows.add(rowOf('word ', word));
    if (i === 0) rows.add(rowOf('first ', word));
    const next = words[i + 1];
    rows.add(next === undefined ? rowOf('last ', word) : rowOf('pair ', `${word} ${next}`));
    const framed = `<${word}>`;
    for (let length = SHORTEST; length <= LONGEST; length++)
      for (let at = 0; at + length <= framed.length; at++) rows.add(rowOf('', framed.slice(at, at + length)));
    for (const family of around) rows.add(rowOf(`beside ${family} `, word));
  });
  for (const family of around) rows.add(rowOf('beside ', family));
  return [...rows];
}
