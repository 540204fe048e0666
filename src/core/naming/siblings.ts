import { readNames } from './read-names';
import type { OwnWord } from './reading';
import { tokenise } from './tokens';

const SIDES: ReadonlySet<string> = new Set(['l', 'r', 'left', 'right', 'lt', 'rt', 'links', 'rechts']);

/** The words of a name without numbers, sides and single letters; what is said of one with the same is likely so of the other. */
const wordsOf = (name: string): string =>
  tokenise(name)
    .map((t) => t.text)
    .filter((w) => w.length > 1 && !/^\d+$/.test(w) && !SIDES.has(w))
    .join(' ');

/**
 * Others of a delivery that are called the same but for number and side, by their places in `names`. Names that say nothing
 * (a recorder's) have none: that they are alike means nothing. Common practice, no source.
 */
export function siblingsOf(
  names: readonly string[],
  at: number,
  own: readonly OwnWord[] = [],
  junk: readonly string[] = [],
): number[] {
  const words = wordsOf(names[at] ?? '');
  if (words === '') return [];
  const found = names.flatMap((name, i) => (i !== at && wordsOf(name) === words ? [i] : []));
  if (found.length === 0) return [];
  return readNames(names, own, junk)[at]?.isSilent ? [] : found;
}
