import { COMMON_PARTS, type NearKeys } from '../lexicon/near-keys';
import type { Language, SenseKind } from '../lexicon/sense';
import type { Lexicon } from '../lexicon/lexicon';

/** How a word of a name came to a key of the lexicon. */
export type How = 'exact' | 'inflected' | 'compound' | 'ending' | 'mistyped' | 'vowels' | 'cut';

/** Ways that only resemble. */
export const GUESSES: ReadonlySet<How> = new Set<How>(['mistyped', 'vowels', 'cut', 'ending']);

/** A key that a word, or a piece of it, may stand for. Costs are log units. */
export interface Step {
  readonly key: string;
  readonly how: How;
  readonly cost: number;
  /** Languages in which the inflection is one; null = all. */
  readonly languages: readonly Language[] | null;
}

/** Keys that a word may stand for, one after the other. */
export type Candidate = readonly Step[];

const WORD = /^\p{L}+$/u;

/** Endings that words take by number and case, and the languages that have them; null = any. Handbook grammar, from memory. */
const ENDINGS: readonly (readonly [string, readonly Language[] | null])[] = [
  ['je', ['nl']],
  ['tje', ['nl']],
  ['jes', ['nl']],
  ['tjes', ['nl']],
  ['chen', ['de']],
  ['s', ['xx', 'de', 'es', 'fr', 'pt', 'nl']],
  ['es', null],
  ['n', ['de', 'nl', 'sv']],
  ['en', ['de', 'nl', 'sv']],
  ['e', ['de', 'nl', 'fr']],
  ['er', ['de', 'sv']],
  ['r', ['sv']],
  ['a', ['it', 'es', 'pt', 'sv']],
  ['i', ['it']],
  ['o', ['it', 'es', 'pt']],
  ['ar', ['sv']],
  ['or', ['sv']],
  ['na', ['sv']],
  ['erna', ['sv']],
  ['x', null],
  ['z', null],
];

/** Plurals that short words take too: `hats`, `hatz`. */
const SHORT_ENDINGS: ReadonlySet<string> = new Set(['s', 'z', 'x']);
/** Endings within a compound. */
const LINKS = ['s', 'en', 'n', 'e', 'es'];
/** Short second halves that are places or sides. */
const SHORT_TAILS: ReadonlySet<string> = new Set([
  'l',
  'r',
  'di',
  'in',
  'out',
  'top',
  'up',
  'hi',
  'lo',
  'ob',
  'li',
  're',
  'sx',
  'dx',
  'am',
  'amp',
]);
const FIRST_HALVES: ReadonlySet<SenseKind> = new Set<SenseKind>(['part', 'role', 'position', 'treatment']);
const GERMANIC: ReadonlySet<Language> = new Set<Language>(['xx', 'de', 'nl', 'sv']);
/** So many are followed up. */
const MOST = 9;
const MOST_REMEMBERED = 20_000;

const total = (c: Candidate): number => c.reduce((sum, s) => sum + s.cost, 0);

/** Finds what words may stand for; what it found for a word it remembers. */
export class CandidateFinder {
  readonly #known = new Map<string, readonly Candidate[]>();
  readonly #lexicon: Lexicon;

  constructor(lexicon: Lexicon) {
    this.#lexicon = lexicon;
  }

  /** The likeliest keys of a folded word, cheapest first. */
  of(word: string): readonly Candidate[] {
    const known = this.#known.get(word);
    if (known) return known;
    const found = this.#find(word)
      .sort((a, b) => total(a) - total(b))
      .slice(0, MOST);
    if (this.#known.size > MOST_REMEMBERED) this.#known.clear();
    this.#known.set(word, found);
    return found;
  }

  /** Words at most one edit away: two atoms that a slip has parted. */
  nearly(word: string): readonly { readonly key: string; readonly distance: number }[] {
    return this.#lexicon.near().mistyped(word, 1);
  }

  #find(word: string): Candidate[] {
    const out: Candidate[] = [];
    if (this.#lexicon.has(word)) out.push([step(word, 'exact', 0)]);
    if (!WORD.test(word)) return out;
    if (word.length >= 4 && !this.#lexicon.has(word)) out.push(...this.#inflected(word));
    if (word.length >= 3) out.push(...this.#compounds(word));
    if (word.length >= 6 && /[lr]$/.test(word)) out.push(...this.#withSide(word));
    if (word.length >= 7 && !this.#lexicon.has(word)) out.push(...this.#byEnding(word, out));
    if (this.#isOpen(word, out)) out.push(...this.#guesses(word));
    return out;
  }

  /** Whether nothing speaks for a word that would make guessing needless. */
  #isOpen(word: string, found: readonly Candidate[]): boolean {
    const clear = found.some(
      (c) => c[0]?.how === 'exact' || (c.length === 1 && c[0]?.how === 'inflected' && c[0].cost < 0.5),
    );
    const composed = word.length > 5 && found.some((c) => total(c) <= 0.8);
    const onlyJunk =
      word.length <= 4 && this.#lexicon.has(word) && this.#lexicon.of(word).every((s) => s.kind === 'junk');
    return (!clear && !composed) || onlyJunk;
  }

  #inflected(word: string): Candidate[] {
    const out: Candidate[] = [];
    for (const [ending, languages] of ENDINGS) {
      const speaks = (key: string): boolean =>
        this.#lexicon.of(key).some((s) => languages === null || languages.includes(s.language));
      const stem = word.slice(0, -ending.length);
      if (word.endsWith(ending) && stem.length >= (SHORT_ENDINGS.has(ending) ? 3 : 4) && speaks(stem))
        out.push([{ key: stem, how: 'inflected', cost: ending === 's' ? 0.35 : 0.6, languages }]);
      if (speaks(word + ending)) out.push([{ key: word + ending, how: 'inflected', cost: 0.6, languages }]);
    }
    return out;
  }

  /** The stem of a first half: as it stands, or without the ending that links it. */
  #stemOf(half: string): string | null {
    if (this.#lexicon.has(half)) return half;
    for (const link of LINKS) {
      const stem = half.slice(0, -link.length);
      if (half.endsWith(link) && stem.length >= 4 && this.#lexicon.has(stem)) return stem;
    }
    return null;
  }

  #compounds(word: string): Candidate[] {
    const out: Candidate[] = [];
    for (let i = 2; i < word.length; i++) {
      const head = this.#stemOf(word.slice(0, i));
      if (head === null || !this.#lexicon.of(head).some((s) => FIRST_HALVES.has(s.kind))) continue;
      const tail = word.slice(i);
      const key = this.#lexicon.has(tail)
        ? tail
        : tail.length >= 5 && this.#lexicon.has(tail.slice(0, -1))
          ? tail.slice(0, -1)
          : null;
      if (key !== null) {
        const two = this.#twoHalves(word, i, head, key, tail);
        if (two) out.push(two);
      } else out.push(...this.#threeThirds(word, i, head));
    }
    return out;
  }

  #twoHalves(word: string, i: number, head: string, key: string, tail: string): Candidate | null {
    const kinds = new Set(this.#lexicon.of(key).map((s) => s.kind));
    const isPlace = kinds.has('side') || kinds.has('position');
    if (!((tail.length >= 3 && i >= 3) || (isPlace && SHORT_TAILS.has(tail)))) return null;
    // One letter behind a word is a side only where words end so in every language.
    const isWhole = head === word.slice(0, i);
    if (
      tail.length === 1 &&
      !(isWhole && (i >= 4 || this.#lexicon.of(head).some((s) => s.language === 'xx')))
    )
      return null;
    const isTwoThings = kinds.has('part') && this.#lexicon.of(head).some((s) => s.kind === 'part');
    const cost =
      0.5 +
      (Math.min(i, tail.length) < 4 ? 0.6 : 0) +
      (isTwoThings ? 1.1 : 0) +
      (this.#lexicon.has(word) ? 1.2 : 0) +
      (tail.length === 1 && i < 3 ? 0.3 : 0) +
      (kinds.has('junk') && !kinds.has('part') && !kinds.has('position') ? 0.6 : 0);
    return [step(head, 'compound', cost / 2), step(key, 'compound', cost / 2)];
  }

  #threeThirds(word: string, i: number, head: string): Candidate[] {
    const out: Candidate[] = [];
    if (i < 3) return out;
    for (let j = i + 3; j <= word.length - 3; j++) {
      const [middle, tail] = [word.slice(i, j), word.slice(j)];
      if (this.#lexicon.has(middle) && this.#lexicon.has(tail))
        out.push([head, middle, tail].map((k) => step(k, 'compound', 0.5)));
    }
    return out;
  }

  /** A side behind a compound: `snaretopl`. */
  #withSide(word: string): Candidate[] {
    return this.of(word.slice(0, -1))
      .slice(0, 2)
      .filter((c) => c.length > 1 && c.every((s) => s.how === 'exact' || s.how === 'compound'))
      .map((c) => [...c, step(word.slice(-1), 'compound', 0.4)]);
  }

  /** An unknown first half before a source: `Spielmannschor`. */
  #byEnding(word: string, found: readonly Candidate[]): Candidate[] {
    for (let i = 2; i < word.length - 3; i++) {
      const tail = word.slice(i);
      if (
        this.#lexicon.of(tail).some((s) => s.kind === 'part' && GERMANIC.has(s.language)) &&
        !found.some((c) => c.at(-1)?.key === tail)
      )
        return [[step(tail, 'ending', 1 + 0.12 * i)]];
    }
    return [];
  }

  #guesses(word: string): Candidate[] {
    const near = this.#lexicon.near();
    return [
      ...(word.length >= 4 ? this.#mistyped(near, word) : []),
      ...(hasFewVowels(word) ? this.#withoutVowels(near, word) : []),
      ...(word.length >= 3 ? this.#cutShort(near, word) : []),
    ];
  }

  #mistyped(near: NearKeys, word: string): Candidate[] {
    return near
      .mistyped(word, word.length < 7 ? 1 : 2)
      .map(({ key, distance }) => {
        const otherFirst = key[0] !== word[0];
        const limitUsed = distance + (otherFirst && word.length < 6 ? 0.8 : 0);
        return {
          key,
          d: limitUsed + (otherFirst ? 0.5 : 0) + (word.length <= 4 && distance >= 1 ? 0.4 : 0),
          within: limitUsed <= (word.length < 7 ? 1 : 2),
        };
      })
      .filter((g) => g.within)
      .sort((a, b) => a.d - b.d)
      .slice(0, 5)
      .map((g) => [step(g.key, 'mistyped', 0.5 + 1.1 * g.d)]);
  }

  #withoutVowels(near: NearKeys, word: string): Candidate[] {
    const isCommon = (key: string): boolean =>
      key.length < 5 &&
      this.#lexicon
        .of(key)
        .some((s) => COMMON_PARTS.has(s.part) && s.family !== 'reference' && s.family !== 'click');
    return near
      .withoutVowels(word)
      .slice(0, 6)
      .filter((key) => key !== word && (word.length > 2 || isCommon(key)))
      .map((key) => [
        step(key, 'vowels', (word.length > 2 ? 0.9 : 2.6) + 0.08 * Math.abs(key.length - word.length)),
      ]);
  }

  #cutShort(near: NearKeys, word: string): Candidate[] {
    const keys = [...near.cutShort(word)].sort((a, b) => a.length - b.length);
    const families = new Set(
      keys.flatMap((k) => this.#lexicon.of(k).flatMap((s) => (s.kind === 'part' ? [s.family] : []))),
    );
    return keys
      .slice(0, 4)
      .map((key) => [
        step(
          key,
          'cut',
          0.9 + 0.35 * families.size + 0.06 * (key.length - word.length) + (word.length === 3 ? 0.5 : 0),
        ),
      ]);
  }
}

const step = (key: string, how: How, cost: number): Step => ({ key, how, cost, languages: null });

const FEW_VOWELS = 0.26;
const hasFewVowels = (word: string): boolean =>
  word.length >= 2 && (word.slice(1).match(/[aeiouy]/g) ?? []).length <= word.length * FEW_VOWELS;
