import type { Sense } from './sense';

/** Parts that many deliveries have: a guess at a rarer one needs more to speak for it. */
export const COMMON_PARTS: ReadonlySet<string | null> = new Set<string | null>([
  'kick',
  'snare',
  'hihat',
  'tom',
  'overhead',
  'room',
  'ride',
  'cymbal',
  'kit',
  'loop',
  'clap',
  'tambourine',
  'shaker',
  'percussion',
  'conga',
  'electric-bass',
  'double-bass',
  'synth-bass',
  'guitar',
  'electric-guitar',
  'acoustic-guitar',
  'keys',
  'piano',
  'electric-piano',
  'organ',
  'synth',
  'pad',
  'synth-lead',
  'arp',
  'pluck',
  'strings',
  'violin',
  'viola',
  'cello',
  'brass',
  'trumpet',
  'trombone',
  'horn',
  'saxophone',
  'flute',
  'clarinet',
  'vocal',
  'choir',
  'effect',
  'riser',
  'impact',
  'reverse',
  'noise',
  'mix',
  'guide',
  'click',
  'talkback',
  'register',
  'accordion',
  'harp',
]);

const CORE: ReadonlySet<Sense['kind']> = new Set<Sense['kind']>([
  'part',
  'role',
  'position',
  'treatment',
  'side',
]);
const LETTERS_ONLY = /^\p{L}+$/u;

/** First letter and consonants, doubled ones once: `trumpet` → `trmpt`. */
export const skeletonOf = (key: string): string =>
  (key.charAt(0) + key.slice(1).replace(/[aeiouy]/g, '')).replace(/(.)\1+/g, '$1');

/**
 * Edits between two words: letters more, less or other count 1, two that changed places 0.7; Infinity beyond `limit`.
 * Source: optimal string alignment distance, from memory.
 */
export function editDistance(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) > limit) return Infinity;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    let least = i;
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let d = Math.min(
        (last[j] as number) + 1,
        (row[j - 1] as number) + 1,
        (last[j - 1] as number) + (same ? 0 : 1),
      );
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        d = Math.min(d, (before[j - 2] as number) + 0.7);
      row.push(d);
      least = Math.min(least, d);
    }
    if (least > limit) return Infinity;
    before = last;
    last = row;
  }
  const d = last[b.length] as number;
  return d <= limit ? d : Infinity;
}

/** A bit for each letter of a word. */
function lettersOf(key: string): number {
  let bits = 0;
  for (let i = 0; i < key.length; i++) bits |= 1 << (key.charCodeAt(i) % 31);
  return bits;
}

function bitCount(x: number): number {
  let v = x - ((x >>> 1) & 0x55555555);
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
  return Math.imul((v + (v >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}

interface Listed {
  readonly key: string;
  readonly letters: number;
}

/** Finds words of the lexicon that an unknown one may stand for: mistyped, without its vowels, or cut short. */
export class NearKeys {
  readonly #byLength = new Map<number, Listed[]>();
  readonly #bySkeleton = new Map<string, string[]>();
  readonly #byPrefix: string[] = [];

  constructor(senses: ReadonlyMap<string, readonly Sense[]>) {
    const core = [...senses].filter(([, all]) => all.some((s) => CORE.has(s.kind)));
    const short = shortForms(core);
    for (const [key, all] of core) {
      if (!LETTERS_ONLY.test(key)) continue;
      const isWord = all.every((s) => s.bounds.size === 0);
      if (key.length >= 4 && key.length <= 16 && !short.has(key))
        this.#put(this.#byLength, key.length, { key, letters: lettersOf(key) });
      if (!isWord) continue;
      if (key.length >= 3 && key.length <= 14) this.#listSkeleton(key);
      if (key.length >= 5 && key.length <= 14) this.#byPrefix.push(key);
    }
    this.#byPrefix.sort();
  }

  #put<K, V>(map: Map<K, V[]>, key: K, value: V): void {
    const there = map.get(key);
    if (there) there.push(value);
    else map.set(key, [value]);
  }

  #listSkeleton(key: string): void {
    const skeleton = skeletonOf(key);
    this.#put(this.#bySkeleton, skeleton, key);
    // A vowel in front is often left out as well.
    if (/^[aeiou]/.test(key) && skeleton.length >= 4) this.#put(this.#bySkeleton, skeleton.slice(1), key);
  }

  /** Keys at most `limit` edits away, with their distance. */
  mistyped(word: string, limit: number): { readonly key: string; readonly distance: number }[] {
    const letters = lettersOf(word);
    const found: { key: string; distance: number }[] = [];
    for (let length = word.length - limit; length <= word.length + limit; length++)
      for (const { key, letters: other } of this.#byLength.get(length) ?? []) {
        // Every edit changes at most two letters of the set.
        if (bitCount(letters ^ other) > 2 * limit) continue;
        const distance = editDistance(word, key, limit);
        if (distance <= limit) found.push({ key, distance });
      }
    return found;
  }

  withoutVowels(word: string): readonly string[] {
    return this.#bySkeleton.get(skeletonOf(word)) ?? [];
  }

  /** Longer keys that begin so. */
  cutShort(word: string): readonly string[] {
    const list = this.#byPrefix;
    let [from, to] = [0, list.length];
    while (from < to) {
      const middle = (from + to) >> 1;
      if ((list[middle] as string) < word) from = middle + 1;
      else to = middle;
    }
    const found: string[] = [];
    for (; list[from]?.startsWith(word); from++)
      if ((list[from] as string).length > word.length) found.push(list[from] as string);
    return found;
  }
}

/** Aliases that are the beginning of another of the same meaning: what looks like them should be held against the whole word. */
function shortForms(core: readonly (readonly [string, readonly Sense[]])[]): Set<string> {
  const byMeaning = new Map<string, Set<string>>();
  for (const [key, senses] of core)
    for (const s of senses) {
      const meaning = `${s.family}/${s.part}/${s.value}`;
      byMeaning.set(meaning, (byMeaning.get(meaning) ?? new Set()).add(key));
    }
  const isCommon = new Map(core.map(([key, senses]) => [key, senses.some((s) => COMMON_PARTS.has(s.part))]));
  const short = new Set<string>();
  for (const all of byMeaning.values())
    for (const key of all)
      for (let n = 3; n < key.length - 1; n++) {
        const start = key.slice(0, n);
        if (all.has(start) && !(n >= 5 && isCommon.get(start))) short.add(start);
      }
  return short;
}
