import { readNames } from '../naming';
import { fileNameFor } from './file-names';
import type { HouseStyle } from './house-style';
import { triedBy, type TriedName } from './tried-names';

/** What a style makes of the names of one delivery, with the name of each delivered file, without extension; in the order given. */
export const tryNames = (
  names: readonly string[],
  style: HouseStyle,
): (TriedName & { readonly fileName: string })[] =>
  triedBy(readNames(names, style.words, style.junk), style).map((t) => ({
    ...t,
    fileName: fileNameFor(style, t),
  }));
