import { NearKeys } from './near-keys';
import { parseLexicon } from './parse-lexicon';
import type { Family } from '../reading';
import type { Sense } from './sense';
import { DRUMS_AND_PERCUSSION } from './source/drums-and-percussion';
import { MORE_LANGUAGES } from './source/more-languages';
import { PITCHED } from './source/pitched';
import { QUALIFIERS } from './source/qualifiers';
import { VOICES_AND_EFFECTS } from './source/voices-and-effects';

/** All texts of the lexicon, in the order in which parts are shown. */
export const LEXICON_SOURCES: readonly string[] = [
  DRUMS_AND_PERCUSSION,
  PITCHED,
  VOICES_AND_EFFECTS,
  QUALIFIERS,
  MORE_LANGUAGES,
];

/** Words by key; what is not here may be in the lexicon below, which this one goes before. */
export class Lexicon {
  readonly #senses: ReadonlyMap<string, readonly Sense[]>;
  readonly #below: Lexicon | null;
  #near: NearKeys | null = null;
  readonly longestKey: number;

  constructor(senses: readonly Sense[], below: Lexicon | null = null) {
    this.#below = below;
    const byKey = new Map<string, Sense[]>();
    for (const sense of senses) {
      const there = byKey.get(sense.key);
      if (there) there.push(sense);
      else byKey.set(sense.key, [sense]);
    }
    this.#senses = byKey;
    this.longestKey = Math.max(below?.longestKey ?? 0, ...[...byKey.keys()].map((k) => k.length));
  }

  /** What a folded word or phrase can mean; none = it is not in the lexicon. */
  of(key: string): readonly Sense[] {
    return this.#senses.get(key) ?? this.#below?.of(key) ?? NONE;
  }

  /** How many things a word can mean: alike in several languages counts once. */
  meanings(key: string): number {
    return new Set(
      this.of(key).map((s) =>
        [s.kind, s.family, s.part, s.open, s.value, s.position, s.role, s.side, s.number].join(),
      ),
    ).size;
  }

  has(key: string): boolean {
    return this.#senses.has(key) || (this.#below?.has(key) ?? false);
  }

  /** Finds words that an unknown one resembles, among those of the trade. */
  near(): NearKeys {
    return this.#below ? this.#below.near() : (this.#near ??= new NearKeys(this.#senses));
  }
}

const NONE: readonly Sense[] = [];

let shared: Lexicon | null = null;

/** The lexicon of the trade, read at the first use. */
export const lexicon = (): Lexicon =>
  (shared ??= new Lexicon(LEXICON_SOURCES.flatMap((text) => parseLexicon(text).senses)));

/** Parts of a family that the lexicon knows, in its order. */
export function partsInLexicon(family: Family): readonly string[] {
  const isSung = family === 'lead-vocal' || family === 'backing-vocal';
  const parts = LEXICON_SOURCES.flatMap((text) => parseLexicon(text).senses).flatMap((s) =>
    s.part !== null && s.open === null && s.family === family ? [s.part] : [],
  );
  return [...new Set(isSung ? ['vocal', ...parts] : parts)];
}
