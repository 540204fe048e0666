import { type Details, isMicrophoneType, isPlaceLetter } from './details';
import { isNumber } from './atoms';
import type { Weighed } from './heads';
import type { ReadName } from './read-delivery';
import { tellingAtoms } from './telling';
import type { Tile, Word } from './tilings';

/** Number of a source and of its take. */
export interface Numbers {
  readonly number: number | null;
  readonly take: number | null;
}

/** `Kick.1`: a file of the same name was there; counts sources only where siblings count so. */
const isBehindDot = (name: string, digits: string): boolean =>
  new RegExp(`\\p{L}\\.${digits}(?!\\d)`, 'u').test(name);

/** A number in a name, and what stands before it. */
interface Found {
  readonly value: number;
  /** `weak`: padded with a zero, or behind a word of treatment: a take or version unless siblings count so. */
  readonly from: 'head' | 'word' | 'digits' | 'weak';
  readonly before: Word['sense']['kind'] | 'number' | 'unknown' | null;
}

interface Counted extends Numbers {
  readonly found: readonly Found[];
}

const LARGEST = 40;
const LONGEST_TAKE = 4;
const AFTER_THESE: ReadonlySet<Found['before']> = new Set<Found['before']>([
  'part',
  'role',
  'position',
  'side',
]);
/** Parts whose aliases end in their desk: `Violin 2`, `T1`. */
const DESKS: ReadonlySet<string | null> = new Set<string | null>([
  'violin',
  'horn',
  'trumpet',
  'oboe',
  'clarinet',
  'flute',
  'tom',
]);
/** Parts that have digits in what they are called: those count nothing. */
const NAMED_BY_DIGITS: ReadonlySet<string | null> = new Set<string | null>([
  'organ',
  'electric-piano',
  'synth',
  'synth-bass',
  'sampler',
]);
const ROMAN: ReadonlyMap<string, number> = new Map([
  ['i', 1],
  ['ii', 2],
  ['iii', 3],
  ['iv', 4],
]);

/** Numbers and takes of a delivery: a number that all equal names share says nothing; `_01` is the take a recorder counts. */
export function numbersOf(names: readonly ReadName[], details: readonly Details[]): Numbers[] {
  const counted = names.map(countIn);
  const stems = names.map((n, i) => stemOf(n, details[i]));
  const values = new Map<string, Set<number>>();
  counted.forEach(({ found }, i) => {
    const stem = stems[i] as string;
    for (const { value } of found) values.set(stem, (values.get(stem) ?? new Set()).add(value));
  });
  return counted.map(({ found, take }, i) => {
    const differ = (values.get(stems[i] as string)?.size ?? 0) > 1;
    const meant = found.filter((f) => f.from !== 'weak' || differ);
    const best =
      meant.find((f) => f.from === 'head') ?? meant.find((f) => AFTER_THESE.has(f.before)) ?? meant[0];
    const family = names[i]?.ways[0]?.family ?? 'unknown';
    if (best && family !== 'unknown' && family !== 'reference' && family !== 'click')
      return { number: best.value, take: take ?? takeOf(found.filter((f) => f !== best)) };
    return { number: null, take: take ?? takeOf(found) };
  });
}

/** A padded number that counts no sources is the take a recorder counts. */
const takeOf = (found: readonly Found[]): number | null =>
  found.filter((f) => f.from === 'weak' || f.from === 'digits').at(-1)?.value ?? null;

const stemOf = (name: ReadName, details: Details | undefined): string =>
  JSON.stringify([
    name.ways[0]?.family,
    name.ways[0]?.part,
    details,
    tellingAtoms(name).flatMap((a) => (isNumber(a) ? [] : a.key)),
  ]);

const NONE: Counted = { number: null, take: null, found: [] };

function countIn(name: ReadName): Counted {
  const [way] = name.ways;
  if (!way) return NONE;
  const found: Found[] = [];
  let take: number | null = null;
  let before: Found['before'] = null;
  const tiles = [...way.tiles].sort((a, b) => a.from - b.from);
  tiles.forEach((tile, at) => {
    if (tile.kind === 'word') {
      take ??= takeInWord(way, tile);
      const value = numberInWord(name, way, tile);
      if (value !== null) found.push({ value, from: tile.sense.kind === 'number' ? 'word' : 'head', before });
      before = tile.sense.kind;
      return;
    }
    if (tile.kind === 'number') {
      const digits = name.atoms[tile.from]?.key ?? '';
      if (before === 'take') take = digits.length <= LONGEST_TAKE ? Number(digits) : null;
      else if (isCount(digits, before, tiles[at + 1]))
        found.push({
          value: Number(digits),
          from: isWeak(digits, before) || isBehindDot(name.input, digits) ? 'weak' : 'digits',
          before,
        });
    }
    before = tile.kind;
  });
  return { number: null, take, found: found.filter((f) => f.value > 0 && f.value <= LARGEST) };
}

const isWeak = (digits: string, before: Found['before']): boolean =>
  digits.startsWith('0') || before === 'treatment' || before === 'return' || before === 'junk';

/** Numbers of sections, figures with a unit, and types of microphones count no sources. */
function isCount(digits: string, before: Found['before'], next: Tile | undefined): boolean {
  const hasUnit = next?.kind === 'word' && next.sense.kind === 'unit';
  return !hasUnit && before !== 'section' && digits.length <= 2 && !isMicrophoneType(digits);
}

/** `T4` beside a source that is no drum. */
const takeInWord = (way: Weighed, { sense }: Word): number | null =>
  way.family !== 'drums' && /^t\d$/.test(sense.key) ? Number(sense.key.slice(1)) : null;

function numberInWord(name: ReadName, way: Weighed, tile: Word): number | null {
  const { sense } = tile;
  if (sense.kind === 'number') return way.head && !isPlaceLetter(way, sense.key) ? Number(sense.value) : null;
  if (sense.kind !== 'part' || NAMED_BY_DIGITS.has(sense.part)) return null;
  const last = name.atoms[tile.to - 1]?.key ?? '';
  // "Reed 1 Flute": what stands as one word in the lexicon still counts its desks.
  const isPhrase = tile.to - tile.from > 1;
  if (isPhrase && sense.family === way.family && /^\d{1,2}$/.test(last)) return Number(last);
  if (tile !== way.head) return null;
  if (sense.number !== null) return sense.number;
  const digits = /\d{1,2}$/.exec(sense.key)?.[0];
  if (digits !== undefined && DESKS.has(sense.part)) return Number(digits);
  return isPhrase ? (ROMAN.get(last) ?? null) : null;
}
