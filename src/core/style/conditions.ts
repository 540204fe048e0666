import { patternEngine } from '#style-libraries';
import type { RE2JS } from 're2js';
import type { SoundLikeness, SoundName } from '../analysis';
import { type Family, tokenise } from '../naming';
import { soundNamesOf } from './sound-reading';

/** What a row of the session is. */
export const ROW_KINDS = [
  'track',
  'notes',
  'folder',
  'bus',
  'return',
  'mix-bus',
  'section',
  'child',
  'unnamed',
] as const;

/** One of {@link ROW_KINDS}: a `child` stands in a folder, an `unnamed` track's name says nothing. */
export type RowKind = (typeof ROW_KINDS)[number];

/** What a rule or a lens asks of a row. Lists are met by any of their members. */
export type Condition =
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly not: Condition }
  /** Whole words of the name, whatever their case and accents; several words stand one after the other. */
  | { readonly nameHas: readonly string[] }
  /** The whole name, compared in the same way. */
  | { readonly nameIs: readonly string[] }
  /** A pattern by the rules of RE2, anywhere in the name, whatever its case. */
  | { readonly nameMatches: string }
  | { readonly family: readonly Family[] }
  | { readonly part: readonly string[] }
  | { readonly role: readonly string[] }
  | { readonly position: readonly string[] }
  | { readonly channels: readonly number[] }
  | { readonly color: readonly string[] }
  /** Keys of folders of the style. */
  | { readonly folder: readonly string[] }
  | { readonly row: readonly RowKind[] }
  /** Codes of findings. */
  | { readonly finding: readonly string[] }
  /** What it clearly sounds like. */
  | { readonly heard: readonly SoundName[] };

/** Names of the tests a condition can be, besides `all`, `any` and `not`. */
export const TESTS = [
  'nameHas',
  'nameIs',
  'nameMatches',
  'family',
  'part',
  'role',
  'position',
  'channels',
  'color',
  'folder',
  'row',
  'finding',
  'heard',
] as const;

/** What conditions are asked of. */
export interface Subject {
  readonly name: string;
  readonly rows: readonly RowKind[];
  readonly family: Family | null;
  readonly part: string | null;
  readonly role: string | null;
  readonly position: string | null;
  /** Null = not known. */
  readonly channels: number | null;
  /** `#rrggbb`, lower case. */
  readonly color: string | null;
  readonly folder: string | null;
  readonly findings: readonly string[];
  readonly heard: SoundLikeness | null;
}

/** Deepest nesting of a condition. */
export const DEEPEST_CONDITION = 12;

const patterns = new Map<string, RE2JS | null>();
const MOST_PATTERNS = 500;

/** A pattern ready to be tried; null if it is none, undefined while a page has no engine yet. It cannot hang: RE2 takes time linear in the name. */
export function patternOf(source: string): RE2JS | null | undefined {
  const engine = patternEngine();
  if (!engine) return undefined;
  const known = patterns.get(source);
  if (known !== undefined) return known;
  if (patterns.size >= MOST_PATTERNS) patterns.clear();
  let made: RE2JS | null;
  try {
    made = engine.compile(source, engine.CASE_INSENSITIVE);
  } catch {
    made = null;
  }
  patterns.set(source, made);
  return made;
}

/** Whether a condition, whatever its form, holds a pattern. */
export const holdsPattern = (c: Condition): boolean =>
  'nameMatches' in c ||
  ('all' in c && c.all.some(holdsPattern)) ||
  ('any' in c && c.any.some(holdsPattern)) ||
  ('not' in c && holdsPattern(c.not));

const words = new Map<string, string>();
const MOST_WORDS = 20_000;

/** The words of a name as they are compared, each between spaces. */
function wordsIn(name: string): string {
  const known = words.get(name);
  if (known !== undefined) return known;
  if (words.size >= MOST_WORDS) words.clear();
  const made = ` ${tokenise(name)
    .map((t) => t.text)
    .join(' ')} `;
  words.set(name, made);
  return made;
}

const has = <T>(list: readonly T[], value: T | null): boolean => value !== null && list.includes(value);

/** Whether a row meets a condition. No members: `all` is met, `any` is not. */
export function meets(c: Condition, s: Subject): boolean {
  if ('all' in c) return c.all.every((x) => meets(x, s));
  if ('any' in c) return c.any.some((x) => meets(x, s));
  if ('not' in c) return !meets(c.not, s);
  if ('nameHas' in c)
    return c.nameHas.some(
      (phrase) => wordsIn(phrase).trim() !== '' && wordsIn(s.name).includes(wordsIn(phrase)),
    );
  if ('nameIs' in c) return c.nameIs.some((phrase) => wordsIn(s.name) === wordsIn(phrase));
  if ('nameMatches' in c) return patternOf(c.nameMatches)?.matcher(s.name).find() ?? false;
  return meetsFact(c, s);
}

function meetsFact(
  c: Exclude<
    Condition,
    | { readonly all: unknown }
    | { readonly any: unknown }
    | { readonly not: unknown }
    | { readonly nameHas: unknown }
    | { readonly nameIs: unknown }
    | { readonly nameMatches: unknown }
  >,
  s: Subject,
): boolean {
  if ('family' in c) return has(c.family, s.family);
  if ('part' in c) return has(c.part, s.part);
  if ('role' in c) return has(c.role, s.role);
  if ('position' in c) return has(c.position, s.position);
  if ('channels' in c) return has(c.channels, s.channels);
  if ('color' in c) return s.color !== null && c.color.some((x) => x.toLowerCase() === s.color);
  if ('folder' in c) return has(c.folder, s.folder);
  if ('row' in c) return c.row.some((r) => s.rows.includes(r));
  if ('heard' in c) return soundNamesOf(s.heard).some((name) => c.heard.includes(name));
  return c.finding.some((code) => s.findings.includes(code));
}

const plain = (slug: string | number): string => String(slug).replaceAll('-', ' ');
const either = (list: readonly (string | number)[], quote = false): string =>
  list.map((x) => (quote ? `“${x}”` : plain(x))).join(' or ');
const ROW_WORDS: Readonly<Record<RowKind, string>> = {
  track: 'is a track',
  notes: 'is a track of notes',
  folder: 'is a folder',
  bus: 'is a bus',
  return: 'is a return',
  'mix-bus': 'is the mix bus',
  section: 'is a section',
  child: 'stands in a folder',
  unnamed: 'has a name that says nothing',
};

/** A condition in plain words. */
export function conditionText(c: Condition, inner = false): string {
  const joined = (list: readonly Condition[], word: string): string => {
    const text = list.map((x) => conditionText(x, true)).join(` ${word} `);
    return inner && list.length > 1 ? `(${text})` : text;
  };
  if ('all' in c) return c.all.length === 0 ? 'always' : joined(c.all, 'and');
  if ('any' in c) return c.any.length === 0 ? 'never' : joined(c.any, 'or');
  if ('not' in c) return `not (${conditionText(c.not)})`;
  if ('nameHas' in c) return `name has ${either(c.nameHas, true)}`;
  if ('nameIs' in c) return `name is ${either(c.nameIs, true)}`;
  if ('nameMatches' in c) return `name matches /${c.nameMatches}/`;
  if ('row' in c) return c.row.map((r) => ROW_WORDS[r]).join(' or ');
  if ('heard' in c) return `sounds like ${either(c.heard)}`;
  if ('finding' in c) return `has finding ${either(c.finding)}`;
  if ('color' in c) return `is coloured ${c.color.join(' or ')}`;
  if ('folder' in c) return `goes in ${either(c.folder)}`;
  const [test, list] = Object.entries(c)[0] as [string, readonly (string | number)[]];
  return `${test === 'channels' ? 'channels' : test} is ${either(list)}`;
}
