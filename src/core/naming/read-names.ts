import { isAmbiguous, resolveAmbiguous, type NameContext } from './ambiguous';
import { describeReading } from './describe-reading';
import type { Evidence, NameReading, OwnWord, Position, Side } from './reading';
import { sharedPrefixLength, tokenise, type Token } from './tokens';
import {
  JUNK,
  LONGEST_PHRASE,
  type Meaning,
  POSITIONS,
  ROLES,
  SIDES,
  SONG_PARTS,
  TREATMENTS,
  WORDS,
} from './words';

/** A phrase found in a name. */
interface Hit {
  readonly start: number;
  readonly length: number;
  readonly meaning: Meaning;
  readonly text: string;
  readonly rule: Evidence | null;
}

/**
 * Reads the names of one delivery together: they inform each other (a `T1` beside a `T2`, a song title all share).
 * `own` goes before the words of the trade; of two for one phrase the last holds. Words of `junk` are passed by, as if they were not there. Result in the order given.
 */
export function readNames(
  names: readonly string[],
  own: readonly OwnWord[] = [],
  junk: readonly string[] = [],
): readonly NameReading[] {
  const same = <T>(a: readonly T[], b: readonly T[]): boolean =>
    a.length === b.length && a.every((x, i) => x === b[i]);
  const known = read.find((r) => same(r.own, own) && same(r.junk, junk) && same(r.names, names));
  if (known) return known.readings;
  const readings = readAll(names, own, junk);
  read.unshift({ names: [...names], own: [...own], junk: [...junk], readings });
  read.length = Math.min(read.length, MOST_KEPT);
  return readings;
}

/** The lists read last: names of a session are read again at every edit and hardly ever change. */
const MOST_KEPT = 4;
const read: {
  readonly names: readonly string[];
  readonly own: readonly OwnWord[];
  readonly junk: readonly string[];
  readonly readings: readonly NameReading[];
}[] = [];

/** Words of this house and delivery, by phrase. */
type OwnWords = ReadonlyMap<string, OwnWord>;

/** The words of each name, without what all share. */
function wordsOf(names: readonly string[], own: OwnWords, junk: readonly string[]): Token[][] {
  const phrases = junk.map((j) => j.split(' '));
  const all = names.map((name) => withoutJunk(tokenise(name), phrases).flatMap((t) => splitGlued(t, own)));
  const says = (word: string): boolean => WORDS.has(word) || own.has(word);
  const shared = Math.max(
    sharedPrefixLength(all, (word) => says(word) || /^\d+$/.test(word)),
    titleLength(all, says, (word) => isKnown(word, own)),
  );
  return all.map((t) => t.slice(shared));
}

/** Of so many names a title is told, and in this share of what stands behind it an instrument must be named. */
const LEAST_TITLED = 4;
const NAMED_SHARE = 0.8;

/** Words all names begin with that are the song's title though an instrument is among them (“Guitar Weather – Bass”): a word that is none, and instruments behind it. */
function titleLength(
  names: readonly (readonly Token[])[],
  says: (word: string) => boolean,
  known: (word: string) => boolean,
): number {
  if (names.length < LEAST_TITLED) return 0;
  const length = sharedPrefixLength(names, () => false);
  const title = names[0]?.slice(0, length) ?? [];
  if (!title.some((t) => !known(t.text) && /^\p{L}{3,}$/u.test(t.text))) return 0;
  const named = names.filter((n) => n.slice(length).some((t) => says(t.text))).length;
  return named >= NAMED_SHARE * names.length ? length : 0;
}

function withoutJunk(tokens: Token[], phrases: readonly (readonly string[])[]): Token[] {
  const starts = (p: readonly string[], at: number): boolean =>
    p.every((word, k) => tokens[at + k]?.text === word);
  const gone = new Set(
    tokens.flatMap((_, at) => phrases.filter((p) => starts(p, at)).flatMap((p) => p.map((__, k) => at + k))),
  );
  return gone.size === 0 ? tokens : tokens.filter((_, i) => !gone.has(i));
}

function readAll(
  names: readonly string[],
  given: readonly OwnWord[],
  junk: readonly string[],
): NameReading[] {
  const own: OwnWords = new Map(given.map((w) => [w.text, w]));
  const tokens = wordsOf(names, own, junk);
  const texts = tokens.map((t) => t.map((x) => x.text).join(' '));
  const alone = contextsOf(texts, [], own);
  const first = tokens.map((t, i) => findHits(t, alone(i)));
  const clear = first.map((hits) => hits.filter((h) => !h.rule && (h.meaning.sure ?? 1) >= 0.85));
  const voices = first.map((hits) =>
    hits.some((h) => h.meaning.part === 'vocal' && h.meaning.family !== 'reference'),
  );
  const voiceCount = voices.filter(Boolean).length;
  const headings = headingsOf(first);
  const together = contextsOf(texts, clear, own);
  return names.map((input, i) => {
    const words = tokens[i] as Token[];
    return conclude(input, words, findHits(words, together(i)), {
      headings,
      otherVoices: voiceCount > (voices[i] ? 1 : 0),
    });
  });
}

/** Words that told nothing: what could be learned from a name, the longest phrase first. Numbers, junk, and what all names share are none. */
export function unreadPhrases(
  names: readonly string[],
  at: number,
  own: readonly OwnWord[] = [],
  junk: readonly string[] = [],
): string[] {
  const table: OwnWords = new Map(own.map((w) => [w.text, w]));
  const words = (wordsOf(names, table, junk)[at] ?? []).map((t) => t.text);
  const silent = (word: string): boolean =>
    word.length >= LEAST_LEARNED && !/\d/.test(word) && !isKnown(word, table) && !COUNTERS.has(word);
  const runs: string[][] = [[]];
  for (const word of words) {
    if (silent(word)) runs.at(-1)?.push(word);
    else if (runs.at(-1)?.length) runs.push([]);
  }
  const phrases = runs
    .filter((r) => r.length > 0)
    .flatMap((r) => (r.length > 1 && r.length <= LONGEST_PHRASE ? [r.join(' '), ...r] : r));
  return [...new Set(phrases)];
}

/** Shorter words mean too many things. */
const LEAST_LEARNED = 3;
/** What recorders and programs call their files. */
const COUNTERS: ReadonlySet<string> = new Set([
  'recording',
  'aufnahme',
  'untitled',
  'unnamed',
  'take',
  'clip',
  'region',
  'input',
  'channel',
  'wav',
  'session',
  'project',
  'memo',
  'tracks',
]);

/** Tokens that stand for themselves. */
const isKnown = (word: string, own: OwnWords): boolean =>
  own.has(word) ||
  WORDS.has(word) ||
  isAmbiguous(word) ||
  SIDES[word] !== undefined ||
  POSITIONS[word] !== undefined ||
  ROLES[word] !== undefined ||
  TREATMENTS.has(word) ||
  JUNK.has(word) ||
  SONG_PARTS.has(word);
const isThing = (word: string, own: OwnWords): boolean =>
  own.has(word) || WORDS.has(word) || isAmbiguous(word);
const LEAST_STEM = 2;
const LEAST_GLUED = 3;

/** Takes apart what was written together: `OHL`, `snaretop`, `voxlead`. Only words that say nothing as they stand, and only where both parts do. */
function splitGlued(token: Token, own: OwnWords): Token[] {
  const { text, shown } = token;
  if (text.length < LEAST_GLUED || isKnown(text, own) || text.length !== shown.length) return [token];
  const cut = (at: number): Token[] => [
    { text: text.slice(0, at), shown: shown.slice(0, at) },
    { text: text.slice(at), shown: shown.slice(at) },
  ];
  if (/[lr]$/.test(text) && text.length > LEAST_STEM && isThing(text.slice(0, -1), own))
    return cut(text.length - 1);
  for (let at = text.length - 2; at >= LEAST_GLUED; at--) {
    const [head, tail] = [text.slice(0, at), text.slice(at)];
    if (
      (isThing(head, own) &&
        isKnown(tail, own) &&
        (tail.length > 2 || SIDES[tail] !== undefined || POSITIONS[tail] !== undefined)) ||
      (tail.length >= LEAST_GLUED &&
        isThing(tail, own) &&
        (ROLES[head] !== undefined || TREATMENTS.has(head)))
    )
      return cut(at);
  }
  return [token];
}

/** How many names have each thing, so that what the others have is told without looking at each again. */
class Shared<T> {
  readonly #sets: readonly ReadonlySet<T>[];
  readonly #counts = new Map<T, number>();

  constructor(sets: readonly ReadonlySet<T>[]) {
    this.#sets = sets;
    for (const set of sets) for (const x of set) this.#counts.set(x, (this.#counts.get(x) ?? 0) + 1);
  }

  /** What names other than this one have. */
  besides(self: number): { readonly has: (x: T) => boolean } {
    const own = this.#sets[self];
    return { has: (x) => (this.#counts.get(x) ?? 0) > (own?.has(x) ? 1 : 0) };
  }
}

/** What the other names say: their texts, and what their clear words mean. */
function contextsOf(
  texts: readonly string[],
  clear: readonly (readonly Hit[])[],
  own: OwnWords,
): (self: number) => NameContext {
  const families = new Shared(clear.map((hits) => new Set(hits.map((h) => h.meaning.family))));
  const parts = new Shared(clear.map((hits) => new Set(hits.map((h) => h.meaning.part ?? ''))));
  return (self) => ({
    someNeighbour: (pattern) => texts.some((t, i) => i !== self && pattern.test(t)),
    neighbourFamilies: families.besides(self),
    neighbourParts: parts.besides(self),
    own,
  });
}

function findHits(tokens: readonly Token[], context: NameContext): Hit[] {
  const hits: Hit[] = [];
  const words = tokens.map((t) => t.text);
  for (let at = 0; at < words.length;) {
    const mine = ownPhrase(words, at, context.own);
    if (mine) {
      hits.push({ start: at, length: mine.length, meaning: mine.meaning, text: mine.text, rule: null });
      at += mine.length;
      continue;
    }
    const phrase = longestPhrase(words, at);
    const ambiguous = resolveAmbiguous(words, at, phrase?.length ?? 0, context);
    if (ambiguous) {
      if (ambiguous.meaning)
        hits.push({
          start: at,
          length: ambiguous.length,
          meaning: ambiguous.meaning,
          text: words.slice(at, at + ambiguous.length).join(' '),
          rule: ambiguous.rule,
        });
      at += ambiguous.length;
    } else if (phrase) {
      hits.push({
        start: at,
        length: phrase.length,
        meaning: phrase.meaning,
        text: words.slice(at, at + phrase.length).join(' '),
        rule: null,
      });
      at += phrase.length;
    } else at++;
  }
  return hits;
}

function ownPhrase(
  words: readonly string[],
  at: number,
  own: NameContext['own'],
): { readonly length: number; readonly meaning: Meaning; readonly text: string } | null {
  for (let length = own.size === 0 ? 0 : Math.min(LONGEST_PHRASE, words.length - at); length > 0; length--) {
    const text = words.slice(at, at + length).join(' ');
    const meaning = own.get(text);
    if (meaning) return { length, meaning, text };
  }
  return null;
}

/** Several of what the table has one of. */
function singular(phrase: string): Meaning | undefined {
  if (phrase.length < LEAST_PLURAL || !phrase.endsWith('s')) return undefined;
  return (
    WORDS.get(phrase.slice(0, -1)) ?? (phrase.endsWith('es') ? WORDS.get(phrase.slice(0, -2)) : undefined)
  );
}

const LEAST_PLURAL = 5;

function longestPhrase(words: readonly string[], at: number): { length: number; meaning: Meaning } | null {
  for (let length = Math.min(LONGEST_PHRASE, words.length - at); length > 0; length--) {
    const phrase = words.slice(at, at + length).join(' ');
    const meaning = WORDS.get(phrase) ?? singular(phrase);
    if (meaning) return { length, meaning };
  }
  return null;
}

const TREATMENT = 'treatment: stays with its source';

/** Joins the hits of one name into one reading. */
function conclude(
  input: string,
  tokens: readonly Token[],
  hits: readonly Hit[],
  { headings, otherVoices }: { readonly headings: ReadonlySet<string>; readonly otherVoices: boolean },
): NameReading {
  const evidence: Evidence[] = [];
  const used = new Set<number>();
  const { main, doubt } = chooseSource(hits, headings, evidence);
  for (const h of hits) for (let k = h.start; k < h.start + h.length; k++) used.add(k);
  const rest = readRest(tokens, used, main, evidence);
  if (!main && evidence.some((e) => e.means === TREATMENT)) {
    evidence.push({ kind: 'rule', text: input, means: 'a treatment without its source: an effect' });
    return {
      input,
      family: 'effects',
      part: 'effect',
      role: null,
      position: null,
      side: rest.side,
      number: rest.number,
      take: rest.take,
      confidence: rest.unknown > 0 ? 0.5 : 0.72,
      evidence,
    };
  }
  if (!main) {
    return {
      input,
      family: 'unknown',
      part: null,
      role: null,
      position: null,
      side: rest.side,
      number: rest.number,
      take: rest.take,
      confidence: 0.1,
      evidence,
    };
  }
  const m = main.meaning;
  let family = m.family;
  let role = m.role ?? rest.role;
  let sure = (m.sure ?? 0.95) * doubt;
  if (family === 'lead-vocal' && m.part === 'vocal' && m.sure !== undefined && main.rule === null) {
    if (role === 'harmony') family = 'backing-vocal';
    if (role === 'lead' || role === 'double' || role === 'harmony') sure = 0.92 * doubt;
    else if (!otherVoices) {
      sure = 0.85 * doubt;
      evidence.push({
        kind: 'neighbour',
        text: main.text,
        means: 'the only voice of the delivery: taken as lead',
      });
    } else
      evidence.push({
        kind: 'neighbour',
        text: main.text,
        means: 'several voices, none said to lead: check',
      });
  }
  if (family === 'drums' && m.part === 'room') role = null;
  const part = m.part;
  // A junk-laden name is still clear if one known word stands in it; unknown words cost a little.
  const confidence = Math.max(0.2, Math.min(0.98, sure - 0.04 * Math.min(3, rest.unknown)));
  const position = m.position ?? rest.position;
  return {
    input,
    family,
    part,
    role: role ?? null,
    position: position ?? null,
    side: rest.side,
    number: ['reference', 'click'].includes(family) ? null : rest.number,
    take: rest.take,
    confidence,
    evidence,
  };
}

const isAnyVoice = ({ meaning }: Hit): boolean =>
  meaning.family === 'lead-vocal' && meaning.role === undefined && meaning.sure !== undefined;

/** Words that head a whole group of names: `DRUMS_Clap`, `VOX_Choir`. What stands behind them says more. */
function withoutHeading(pool: readonly Hit[], headings: ReadonlySet<string>): readonly Hit[] {
  const [first, ...more] = pool;
  return first &&
    more.length > 0 &&
    first.start === 0 &&
    headings.has(first.text) &&
    more.some((h) => h.meaning.part !== 'loop' || first.meaning.family === 'drums')
    ? more
    : pool;
}

/** What sets a group apart in its names' first word, where at least three begin so. */
const HEADING_PARTS = new Set([
  'kit',
  'percussion',
  'electric-bass',
  'guitar',
  'keys',
  'synth',
  'strings',
  'brass',
  'winds',
  'vocal',
  'effect',
]);
const LEAST_HEADED = 3;

function headingsOf(hits: readonly (readonly Hit[])[]): ReadonlySet<string> {
  const counts = new Map<string, number>();
  for (const [first] of hits)
    if (first?.start === 0 && HEADING_PARTS.has(first.meaning.part ?? ''))
      counts.set(first.text, (counts.get(first.text) ?? 0) + 1);
  return new Set([...counts].filter(([, n]) => n >= LEAST_HEADED).map(([text]) => text));
}

/** Words that say how another thing is used, where another thing is named. */
const isManner = ({ meaning }: Hit): boolean =>
  ((meaning.part === 'loop' || meaning.role === 'rhythm') && meaning.sure !== undefined) ||
  (meaning.family === 'backing-vocal' && meaning.role === 'harmony');

/** Which of several phrases names the source, and how far the others cast doubt on it (1 = not at all). */
function chooseSource(
  hits: readonly Hit[],
  headings: ReadonlySet<string>,
  evidence: Evidence[],
): { main: Hit | null; doubt: number } {
  for (const h of hits)
    evidence.push(h.rule ?? { kind: 'word', text: h.text, means: describeReading(h.meaning) });
  const [only] = hits;
  if (!only) return { main: null, doubt: 1 };
  if (hits.length === 1) return { main: only, doubt: 1 };
  const reference = hits.find((h) => h.meaning.family === 'reference' && h.meaning.part !== 'mix');
  if (reference) return { main: reference, doubt: 1 };
  // "Kick Mix", "Snare Ambience", "Gtr Noise": a print or a space of a source stays with the source.
  const named = hits.filter((h) => !['reference', 'effects'].includes(h.meaning.family));
  // A loop, a beat, a harmony of something is that something.
  const things = named.filter((h) => !isManner(h));
  const sources = things.length > 0 && things.some((h) => h.meaning.part !== 'vocal') ? things : named;
  const pool = withoutHeading(sources.length > 0 ? sources : hits, headings);
  if (pool.length === 1)
    return { main: pool[0] as Hit, doubt: sources.length > 0 && named.length < hits.length ? 0.85 : 1 };
  // “Vox BG”, “Voc Harm”: the voice in general, and what it does here.
  const voices = pool.filter((h) => ['vocal', 'choir'].includes(h.meaning.part ?? '') && !isAnyVoice(h));
  if (
    voices.length > 0 &&
    pool.every((h) => isAnyVoice(h) || voices.includes(h)) &&
    new Set(voices.map((h) => h.meaning.family)).size === 1
  )
    return { main: voices[0] as Hit, doubt: 1 };
  const families = new Set(pool.map((h) => h.meaning.family));
  if (families.size === 1) {
    const specific = pool.filter(
      (h) =>
        ![
          'kit',
          'room',
          'loop',
          'guitar',
          'strings',
          'brass',
          'percussion',
          'keys',
          'synth',
          'effect',
          'noise',
        ].includes(h.meaning.part ?? ''),
    );
    return {
      main: specific[0] ?? pool.find((h) => h.meaning.part !== 'kit') ?? (pool[0] as Hit),
      doubt: specific.length > 1 ? 0.7 : 1,
    };
  }
  const last = pool.at(-1) as Hit;
  evidence.push({
    kind: 'rule',
    text: pool.map((h) => h.text).join(' + '),
    means: 'two sources named: the last is usually meant',
  });
  return { main: last, doubt: 0.6 };
}

interface Rest {
  role: string | null;
  position: Position | null;
  side: Side | null;
  number: number | null;
  take: number | null;
  unknown: number;
}

const MICROPHONE_TYPES = new Set([
  47, 49, 57, 58, 67, 84, 87, 103, 121, 160, 184, 414, 421, 441, 545, 609, 906,
]);

/** One letter behind a drum says where its microphone stands (common practice, no source). */
const PLACE_LETTERS: ReadonlyMap<string, Position> = new Map([
  ['snare t', 'top'],
  ['snare b', 'bottom'],
  ['snare u', 'bottom'],
  ['kick i', 'in'],
  ['kick o', 'out'],
]);

const placeLetter = (main: Hit | null, text: string): Position | null =>
  (main && PLACE_LETTERS.get(`${main.meaning.part} ${text}`)) ?? null;

/** Sides, places, numbers and takes among the words that name no source. */
function readRest(
  tokens: readonly Token[],
  used: ReadonlySet<number>,
  main: Hit | null,
  evidence: Evidence[],
): Rest {
  const rest: Rest = { role: null, position: null, side: null, number: null, take: null, unknown: 0 };
  const lastUsed = Math.max(-1, ...used);
  const firstUsed = used.size ? Math.min(...used) : tokens.length;
  const word = (i: number): string => tokens[i]?.text ?? '';
  const named = main !== null;
  for (let i = 0; i < tokens.length; i++) {
    if (used.has(i)) continue;
    const text = word(i);
    if (/^\d+$/.test(text)) {
      readNumber(text, i, { rest, lastUsed, firstUsed, before: word(i - 1), named }, evidence);
    } else if (['t', 'tk', 'take'].includes(text) && /^\d+$/.test(word(i + 1))) {
      rest.take = Number(word(i + 1));
      evidence.push({ kind: 'word', text: `${text} ${word(i + 1)}`, means: `take ${rest.take}` });
      i++;
    } else if (text === 'v' && /^\d+$/.test(word(i + 1))) i++;
    else if (['ch', 'chan', 'channel'].includes(text) && /^\d+$/.test(word(i + 1))) i++;
    else if (placeLetter(main, text)) {
      rest.position ??= placeLetter(main, text);
      evidence.push({ kind: 'rule', text, means: `${text.toUpperCase()}: position ${rest.position}` });
    } else if (named && SIDES[text]) {
      rest.side = SIDES[text] as Side;
      evidence.push({ kind: 'word', text, means: `${rest.side} side` });
    } else if (named && POSITIONS[text]) {
      rest.position ??= POSITIONS[text] as Position;
      evidence.push({ kind: 'word', text, means: `position ${rest.position}` });
    } else if (named && ROLES[text]) {
      rest.role ??= ROLES[text] as string;
      evidence.push({ kind: 'word', text, means: `role ${rest.role}` });
    } else if (TREATMENTS.has(text)) evidence.push({ kind: 'word', text, means: TREATMENT });
    else if (SONG_PARTS.has(text)) evidence.push({ kind: 'word', text, means: 'part of the song' });
    else if (JUNK.has(text)) evidence.push({ kind: 'word', text, means: 'no meaning' });
    else rest.unknown++;
  }
  return rest;
}

function readNumber(
  text: string,
  i: number,
  at: { rest: Rest; lastUsed: number; firstUsed: number; before: string; named: boolean },
  evidence: Evidence[],
): void {
  const value = Number(text);
  const { rest } = at;
  if (!at.named) evidence.push({ kind: 'word', text, means: 'index' });
  else if (i < at.firstUsed) evidence.push({ kind: 'word', text, means: 'place in the delivery' });
  else if (JUNK.has(at.before) || TREATMENTS.has(at.before))
    evidence.push({
      kind: 'word',
      text: `${at.before} ${text}`,
      means: 'a version, not a second instrument',
    });
  else if (MICROPHONE_TYPES.has(value))
    evidence.push({ kind: 'word', text, means: 'probably a microphone type' });
  else if (text.length === 1 || (text.length === 2 && !text.startsWith('0') && value <= 24))
    rest.number ??= value;
  else if (text.startsWith('0') && text.length <= 3) {
    // "_03" at the end is the take or copy a recorder counted, not a second instrument.
    rest.take ??= value;
    evidence.push({ kind: 'word', text, means: `take ${value}` });
  } else evidence.push({ kind: 'word', text, means: 'index' });
}
