import { readNames } from '../naming';
import type { HouseStyle } from './house-style';
import { triedBy, type TriedName } from './tried-names';

/** What a style makes of the names of one delivery; in the order given. */
export const tryNames = (names: readonly string[], style: HouseStyle): TriedName[] =>
  triedBy(readNames(names, style.words, style.junk), style);
