import type { Family, NameReading } from '../naming';

/** How the names of a session and of its files are made. */
export interface NameRules {
  /** Fields in braces with what stands before each: a field that says nothing takes that with it. */
  readonly template: string;
  /** Templates of single families. */
  readonly families: Readonly<Partial<Record<Family, string>>>;
  /** Templates of single parts; they go before those of families. */
  readonly parts: Readonly<Record<string, string>>;
  /**
   * How a part, role, position or side is written; `family.word` goes before `word`, an empty text is left out.
   * What is not listed is written as it is, with capitals.
   */
  readonly words: Readonly<Record<string, string>>;
  readonly case: 'capitals' | 'lower' | 'upper';
  /** How numbers are written: 2, 02 or B. */
  readonly numbers: 'digits' | 'two-digits' | 'letters';
  /** Longest name in the session, characters. */
  readonly longest: number;
  /** Characters the mixer's system does not take; each is left out. */
  readonly forbidden: string;
}

/** What a template may name: the family's word for files, and what the reading says. */
export const NAME_FIELDS = ['group', 'part', 'role', 'position', 'number', 'side'] as const;
type Field = (typeof NAME_FIELDS)[number];

/** What may stand between fields. */
export const TEMPLATE = /^(?:[ _.·+\-–]{0,3}\{(?:group|part|role|position|number|side)\}){1,8}$/u;

const pieces = new Map<string, readonly { readonly before: string; readonly field: Field }[]>();

function piecesOf(template: string): readonly { readonly before: string; readonly field: Field }[] {
  const known = pieces.get(template);
  if (known) return known;
  const made = [...template.matchAll(/([^{}]*)\{([a-z]+)\}/g)].map((m) => ({
    before: m[1] ?? '',
    field: m[2] as Field,
  }));
  pieces.set(template, made);
  return made;
}

type Fields = Pick<NameReading, 'family' | 'part' | 'role' | 'number'> & {
  readonly position: string | null;
  readonly side: string | null;
};

const capitals = (word: string): string =>
  word
    .split('-')
    .map((w) => w.charAt(0).toUpperCase() + w.slice(1))
    .join(' ');

/** 1 → A … 26 → Z, 27 → AA. */
function letters(n: number): string {
  return n <= 0
    ? String(n)
    : n <= 26
      ? String.fromCharCode(64 + n)
      : letters(Math.floor((n - 1) / 26)) + letters(((n - 1) % 26) + 1);
}

/** A number as the style writes it. */
export const numberText = (rules: NameRules, n: number): string =>
  rules.numbers === 'letters'
    ? letters(n)
    : rules.numbers === 'two-digits'
      ? String(n).padStart(2, '0')
      : String(n);

const cased = (rules: NameRules, text: string): string =>
  rules.case === 'lower' ? text.toLowerCase() : rules.case === 'upper' ? text.toUpperCase() : text;

/** Name of a track in the session by the style's template; null when its part is unknown. */
export function sessionName(
  rules: NameRules,
  groupWords: Readonly<Record<Family, string>>,
  r: Fields,
): string | null {
  if (r.part === null) return null;
  const word = (value: string | null): string =>
    value === null ? '' : (rules.words[`${r.family}.${value}`] ?? rules.words[value] ?? capitals(value));
  const values: Readonly<Record<Field, string>> = {
    group: groupWords[r.family],
    part: word(r.part),
    role: word(r.role),
    position: word(r.position),
    number: r.number === null ? '' : numberText(rules, r.number),
    side: sideWord(rules, r.side),
  };
  const template = rules.parts[r.part] ?? rules.families[r.family] ?? rules.template;
  let out = '';
  for (const { before, field } of piecesOf(template))
    if (values[field] !== '') out += (out === '' ? '' : before) + values[field];
  return tidyName(rules, out) || null;
}

/** Name of what has no name of its own: by the template, else its family; null when nothing is known. */
export const kindName = (
  { names, fileWords }: { readonly names: NameRules; readonly fileWords: Readonly<Record<Family, string>> },
  said: Fields,
): string | null =>
  sessionName(names, fileWords, said) ??
  (said.family === 'unknown'
    ? null
    : tidyName(
        names,
        [names.words[said.family] ?? capitals(said.family), sideWord(names, said.side)]
          .filter(Boolean)
          .join(' '),
      ));

/** Sides have their own words: “side” and “mid” are places of microphones as well. */
const SIDES: Readonly<Record<string, string>> = { left: 'L', right: 'R', mid: 'M', side: 'S' };
const sideWord = (rules: NameRules, side: string | null): string =>
  side === null ? '' : (rules.words[`side.${side}`] ?? SIDES[side] ?? side);

/** A name as the style lets it be: without what is forbidden, in its case and length. */
export function tidyName(rules: NameRules, name: string): string {
  const allowed =
    rules.forbidden === '' ? name : [...name].filter((c) => !rules.forbidden.includes(c)).join('');
  return [...cased(rules, allowed.replace(/ {2,}/g, ' ').trim())].slice(0, rules.longest).join('').trimEnd();
}

/**
 * Names of a whole session: equal ones are numbered 1, 2, 3 … in order where the template has the number, else at the end.
 * `named(i, n)` gives a name with a number; n null = as it is.
 */
export function numberEqual(
  count: number,
  named: (index: number, number: number | null) => string,
  append: (name: string, number: number) => string,
): string[] {
  const plain = Array.from({ length: count }, (_, i) => named(i, null));
  const counts = new Map<string, number>();
  for (const name of plain) counts.set(name, (counts.get(name) ?? 0) + 1);
  const taken = new Set(plain.filter((n) => counts.get(n) === 1));
  const next = new Map<string, number>();
  return plain.map((name, i) => {
    if ((counts.get(name) ?? 0) < 2) return name;
    for (let n = next.get(name) ?? 1; ; n++) {
      const made = named(i, n);
      const tried = made === name ? append(name, n) : made;
      if (taken.has(tried)) continue;
      taken.add(tried);
      next.set(name, n + 1);
      return tried;
    }
  });
}
