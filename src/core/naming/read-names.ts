import { fold, keyOf } from './lexicon/fold';
import { Lexicon, lexicon } from './lexicon/lexicon';
import { ownSense } from './lexicon/parse-lexicon';
import type { Atom } from './reader/atoms';
import { GUESSES } from './reader/candidates';
import { withCompanions } from './reader/companions';
import { confidenceOf } from './reader/confidence';
import { detailsOf } from './reader/details';
import { evidenceOf } from './reader/evidence';
import { ngramModel } from './reader/ngram-model';
import { numbersOf } from './reader/numbers';
import { DeliveryReader, type ReadName } from './reader/read-delivery';
import type { NameReading, OwnWord } from './reading';

/**
 * Reads the names of one delivery together: they inform each other (a `T1` beside a `T2`, a song title all share).
 * `own` goes before the words of the trade; of two for one phrase the last holds. Words of `junk` are passed by, as if they were not there. Result in the order given.
 */
export function readNames(
  names: readonly string[],
  own: readonly OwnWord[] = [],
  junk: readonly string[] = [],
): readonly NameReading[] {
  return readingOf({ names, own, junk }).readings;
}

/** Words that told nothing: what could be learned from a name, the longest phrase first. Numbers, junk, and what all names share are none. */
export function unreadPhrases(
  names: readonly string[],
  at: number,
  own: readonly OwnWord[] = [],
  junk: readonly string[] = [],
): string[] {
  const name = readingOf({ names, own, junk }).names[at];
  return name ? unreadIn(name) : [];
}

function unreadIn(name: ReadName): string[] {
  const silent = new Set(
    (name.ways[0]?.tiles ?? []).flatMap((t) =>
      t.kind === 'unknown' || (t.kind === 'word' && GUESSES.has(t.how)) ? [t.from] : [],
    ),
  );
  const runs: string[][] = [[]];
  // Pieces of one word are learned as that word.
  for (const word of wordsOf(name.atoms)) {
    const isSilent = word.atoms.every((i) => silent.has(i));
    if (isSilent && word.text.length >= LEAST_LEARNED && !/\d/.test(word.text)) runs.at(-1)?.push(word.text);
    else if (runs.at(-1)?.length) runs.push([]);
  }
  const phrases = runs
    .filter((r) => r.length > 0)
    .flatMap((r) => (r.length > 1 && r.length <= LONGEST_PHRASE ? [r.join(' '), ...r] : r));
  return [...new Set(phrases)];
}

/** Shorter words mean too many things. */
const LEAST_LEARNED = 3;
const LONGEST_PHRASE = 4;

function wordsOf(atoms: readonly Atom[]): { readonly text: string; readonly atoms: readonly number[] }[] {
  const words: { text: string; atoms: number[] }[] = [];
  atoms.forEach((a, i) => {
    const last = words.at(-1);
    if (a.hard || !last) words.push({ text: a.key, atoms: [i] });
    else {
      last.text += ` ${a.key}`;
      last.atoms.push(i);
    }
  });
  return words;
}

interface Reading {
  readonly names: readonly ReadName[];
  readonly readings: readonly NameReading[];
}

interface Asked {
  readonly names: readonly string[];
  readonly own: readonly OwnWord[];
  readonly junk: readonly string[];
}

const same = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** Remembers what was made of the lists read last: names of a session are read again at every edit and hardly ever change. */
function remembering(read: (asked: Asked) => Reading, most: number): (asked: Asked) => Reading {
  const kept: (Asked & { readonly result: Reading })[] = [];
  return (asked) => {
    const { names, own, junk } = asked;
    const known = kept.find((k) => same(k.own, own) && same(k.junk, junk) && same(k.names, names));
    if (known) return known.result;
    const result = read(asked);
    kept.unshift({ names: [...names], own: [...own], junk: [...junk], result });
    kept.length = Math.min(kept.length, most);
    return result;
  };
}

const natural = new Intl.Collator('en', { numeric: true });

/** Names are read in one order, whatever order they came in: the same files are read the same. */
const readingOf = remembering((asked) => {
  const order = asked.names
    .map((name, at) => ({ name, at }))
    .sort((a, b) => natural.compare(a.name, b.name) || (a.name < b.name ? -1 : 1));
  const { names, readings } = inOrder({ ...asked, names: order.map((o) => o.name) });
  const places: number[] = [];
  order.forEach(({ at }, place) => (places[at] = place));
  return {
    names: places.map((p) => names[p] as ReadName),
    readings: places.map((p) => readings[p] as NameReading),
  };
}, 4);

const inOrder = remembering(readInOrder, 8);

function readInOrder({ names, own, junk }: Asked): Reading {
  const { reader, words } = readerFor(own);
  const phrases = junk.map((j) => fold(j).split(' '));
  const delivery = reader.read(names, (atoms) => withoutJunk(atoms, phrases));
  const details = withCompanions(delivery.names, delivery.names.map(detailsOf));
  const numbers = numbersOf(delivery.names, details);
  return {
    names: delivery.names,
    readings: delivery.names.map((name, i): NameReading => ({
      input: name.input,
      family: name.ways[0]?.family ?? 'unknown',
      part: name.ways[0]?.part ?? null,
      role: details[i]?.role ?? null,
      position: details[i]?.position ?? null,
      side: details[i]?.side ?? null,
      number: numbers[i]?.number ?? null,
      take: numbers[i]?.take ?? null,
      confidence: confidenceOf(name, delivery.company, words),
      evidence: evidenceOf(name),
      isSilent: (name.ways[0]?.family ?? 'unknown') === 'unknown' && unreadIn(name).length === 0,
    })),
  };
}

function withoutJunk(atoms: readonly Atom[], phrases: readonly (readonly string[])[]): readonly Atom[] {
  if (phrases.length === 0) return atoms;
  const gone = new Set<number>();
  atoms.forEach((_, at) => {
    for (const phrase of phrases)
      if (phrase.every((word, k) => atoms[at + k]?.key === word)) phrase.forEach((__, k) => gone.add(at + k));
  });
  const left = atoms.filter((_, i) => !gone.has(i));
  return left.length === 0 ? atoms : left;
}

interface Reader {
  readonly reader: DeliveryReader;
  readonly words: Lexicon;
}

let trade: Reader | null = null;
let house: (Reader & { readonly own: readonly OwnWord[] }) | null = null;

/** The reader for the words of the trade, or of the house that asked last: it remembers what words may stand for. */
function readerFor(own: readonly OwnWord[]): Reader {
  if (own.length === 0)
    return (trade ??= { reader: new DeliveryReader(lexicon(), ngramModel()), words: lexicon() });
  if (house && same(house.own, own)) return house;
  const latest = new Map(own.map((w) => [keyOf(w.text), w]));
  const words = new Lexicon(
    [...latest.values()].map((w) => ownSense(w.family, w.part, w.text)),
    lexicon(),
  );
  house = { own: [...own], words, reader: new DeliveryReader(words, ngramModel()) };
  return house;
}
