import { FAMILIES, type Family, type Side } from '../reading';
import { keysOf, fold } from './fold';
import {
  LANGUAGES,
  type Language,
  type Sense,
  SENSE_KINDS,
  type SenseFamily,
  type SenseKind,
  type SensePosition,
} from './sense';

/** Something wrong with a line of the lexicon. */
export interface LexiconFault {
  readonly line: string;
  readonly reason: string;
}

/** What a text of the lexicon holds; see docs/names.md for how it is written. */
export interface ParsedLexicon {
  readonly senses: readonly Sense[];
  readonly faults: readonly LexiconFault[];
}

const MARKS: Readonly<Record<string, number>> = { '!': 0.5, '?': 0.25 };
const HEADING = /^@([a-z]+)$/;
const MEANING = /^([a-z0-9-]+)(?:\/([a-z0-9-]+))?((?:;[a-z]+=[a-z0-9-]+)*) *(?:\{([a-z]+)\})?$/;

/** Reads the source of the lexicon: one meaning a line, languages side by side. Lines that cannot be read are faults and left out. */
export function parseLexicon(text: string): ParsedLexicon {
  const senses: Sense[] = [];
  const faults: LexiconFault[] = [];
  let kind: SenseKind = 'part';
  for (const raw of text.split('\n')) {
    const line = raw.trim();
    if (line === '' || line.startsWith('#')) continue;
    const heading = HEADING.exec(line)?.[1];
    if (heading !== undefined) {
      if ((SENSE_KINDS as readonly string[]).includes(heading)) kind = heading as SenseKind;
      else faults.push({ line, reason: 'no such kind of word' });
      continue;
    }
    const [head = '', ...columns] = line.split('|').map((c) => c.trim());
    const meaning = readMeaning(kind, head);
    if (typeof meaning === 'string') faults.push({ line, reason: meaning });
    else
      for (const column of columns) {
        const [language = '', aliases] = splitOnce(column, ':');
        if (aliases === null || !(LANGUAGES as readonly string[]).includes(language))
          faults.push({ line, reason: `no such language: ${column.slice(0, 12)}` });
        else senses.push(...sensesOf(meaning, language as Language, aliases));
      }
  }
  return { senses, faults };
}

type Meaning = Pick<
  Sense,
  'kind' | 'family' | 'part' | 'value' | 'position' | 'role' | 'side' | 'open' | 'register' | 'tag'
>;

function splitOnce(text: string, by: string): [string, string | null] {
  const at = text.indexOf(by);
  return at < 0 ? [text.trim(), null] : [text.slice(0, at).trim(), text.slice(at + 1)];
}

function readMeaning(kind: SenseKind, head: string): Meaning | string {
  const found = MEANING.exec(head);
  if (!found) return 'cannot be read';
  const [, first = '', part = null, more = '', tag = null] = found;
  const facts = new Map(
    more
      .split(';')
      .filter((m) => m !== '')
      .map((m) => m.split('=') as [string, string]),
  );
  const isFamily = first === 'voice' || (FAMILIES as readonly string[]).includes(first);
  if (kind === 'part' && (!isFamily || part === null)) return 'no such family';
  return {
    kind,
    family: kind === 'part' ? (first as SenseFamily) : null,
    part: kind === 'part' ? part : null,
    value: kind === 'part' ? '' : first,
    position: (facts.get('position') as SensePosition | undefined) ?? null,
    role: facts.get('role') ?? null,
    side: (facts.get('side') as Side | undefined) ?? null,
    open: (facts.get('open') as Sense['open'] | undefined) ?? null,
    register: facts.get('register') ?? null,
    tag,
  };
}

function sensesOf(meaning: Meaning, language: Language, aliases: string): Sense[] {
  return aliases
    .split(',')
    .map((a) => a.trim())
    .filter((a) => a !== '')
    .flatMap((written) => {
      const weight = MARKS[written.charAt(0)] ?? 1;
      const alias = weight === 1 ? written : written.slice(1);
      return keysOf(alias).map((key) => makeSense(meaning, language, alias, key, weight));
    });
}

/** Words within a longer alias that say place, role or side of their own, so that they need not be spelt out. */
const POSITION_WORDS: ReadonlyMap<string, SensePosition> = new Map([
  ['amp', 'amp'],
  ['cab', 'amp'],
  ['di', 'di'],
  ['far', 'far'],
  ['close', 'close'],
  ['near', 'near'],
  ['open', 'open'],
  ['closed', 'closed'],
  ['front', 'front'],
  ['rear', 'rear'],
  ['back', 'rear'],
  ['top', 'top'],
  ['bot', 'bottom'],
  ['bottom', 'bottom'],
]);
const ROLE_WORDS: ReadonlyMap<string, string> = new Map([
  ['solo', 'solo'],
  ['lead', 'lead'],
  ['ld', 'lead'],
  ['rhythm', 'rhythm'],
  ['rhy', 'rhythm'],
  ['clean', 'clean'],
  ['cln', 'clean'],
  ['dist', 'distorted'],
  ['dirty', 'distorted'],
  ['crunch', 'distorted'],
  ['fuzz', 'distorted'],
  ['muted', 'muted'],
  ['dbl', 'double'],
  ['double', 'double'],
  ['pizz', 'pizzicato'],
  ['trem', 'tremolo'],
  ['spicc', 'staccato'],
]);
const SIDE_WORDS: ReadonlyMap<string, Side> = new Map([
  ['l', 'left'],
  ['r', 'right'],
  ['left', 'left'],
  ['right', 'right'],
]);
/** Families whose parts are told apart as high and low. */
const PITCHED: ReadonlySet<SenseFamily | null> = new Set<SenseFamily | null>([
  'keys',
  'strings',
  'brass',
  'winds',
  'synths',
  'backing-vocal',
  'drums',
  'percussion',
]);

const firstOf = <T>(words: readonly string[], table: ReadonlyMap<string, T>): T | null =>
  words.map((w) => table.get(w)).find((x) => x !== undefined) ?? null;

function heightOf(meaning: Meaning, words: readonly string[]): SensePosition | null {
  if (!PITCHED.has(meaning.family) || meaning.part === 'hihat' || meaning.part === 'whistle') return null;
  if (words.some((w) => w === 'hi' || w === 'high')) return 'high';
  return words.some((w) => w === 'lo' || w === 'low') ? 'low' : null;
}

function makeSense(
  meaning: Meaning,
  language: Language,
  alias: string,
  key: string,
  weight: number,
  own = false,
): Sense {
  const words = fold(alias)
    .split(/[^\p{L}\p{N}#]+/u)
    .filter((w) => w !== '');
  const inherits = meaning.kind === 'part' && words.length > 1;
  const last = words.at(-1) ?? '';
  const bounds = new Set<number>();
  let at = 0;
  for (const word of words.slice(0, -1)) bounds.add((at += word.length));
  return {
    ...meaning,
    key,
    alias,
    position:
      meaning.position ?? (inherits ? (firstOf(words, POSITION_WORDS) ?? heightOf(meaning, words)) : null),
    role: meaning.role ?? (inherits ? firstOf(words, ROLE_WORDS) : null),
    side: meaning.side ?? (inherits ? firstOf(words, SIDE_WORDS) : null),
    number: words.length > 1 && /^\d{1,2}$/.test(last) ? Number(last) : null,
    weight,
    language,
    bounds: key.length === at + last.length ? bounds : new Set(),
    // Only ASCII keys of marked aliases: `Flugel` without its dots is another instrument.
    marked: /[^\u0000-\u007f]/.test(alias),
    own,
  };
}

/** A word of this house or delivery. */
export const ownSense = (family: Family, part: string | null, text: string): Sense =>
  makeSense({ ...NO_MEANING, family, part }, 'xx', text, keysOf(text)[0] ?? '', 1, true);

const NO_MEANING: Meaning = {
  kind: 'part',
  family: null,
  part: null,
  value: '',
  position: null,
  role: null,
  side: null,
  open: null,
  register: null,
  tag: null,
};

const concluded = new Map<string, Sense>();

/** A source that no word of the name says: concluded from the rest. */
export function concludedSense(family: SenseFamily, part: string | null, open: Sense['open']): Sense {
  const key = `${family}/${part}/${open}`;
  const known = concluded.get(key);
  if (known) return known;
  const made = makeSense({ ...NO_MEANING, family, part, open }, 'xx', '', '', 1);
  concluded.set(key, made);
  return made;
}

/** Families as the reader's output knows them. */
export const isFamily = (family: SenseFamily): family is Family => family !== 'voice';
