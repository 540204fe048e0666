import * as yup from 'yup';
import { SOUND_NAMES } from '@/core/analysis';
import { FINDING_CODES } from '@/core/findings';
import { FAMILIES, type Family } from '@/core/naming';
import { MATCH_LIMITS, MATCH_MEASURES, MATCH_UNITS } from '@/core/matching';
import { NOUN, PLAIN_WORDS } from '@/core/session';
import { TIDY_LIMITS } from '@/core/tidy';
import { CLICK_PARTS, CLICK_SOUNDS } from '@/core/time';
import {
  type Condition,
  DEEPEST_CONDITION,
  DEFAULT_STYLE,
  type FolderRule,
  type HouseStyle,
  type LensRule,
  MORE_PICTURES,
  patternOf,
  type Picture,
  ROW_KINDS,
  SHADES,
  TEMPLATE,
  TESTS,
} from '@/core/style';
import { err, ok, type Result } from '@/core/units';
import { schemaJson } from './schema-json';

const COLOR = /^#[0-9a-f]{6}$/i;
const KEY = /^(?!own-)[a-z][a-z0-9-]{0,39}$/;
const WORD_KEY = /^[a-z0-9][a-z0-9.-]{0,79}$/;

const color = yup.string().matches(COLOR, '${path} must be a colour like #3f7d4e');
const noun = yup.string().matches(NOUN, '${path} must be a noun like hand-drum');
const key = yup
  .string()
  .matches(
    KEY,
    '${path} must be a key like lead-vocals: small letters, digits and -, not beginning with own-',
  );
const family = yup.string<Family>().oneOf([...FAMILIES], `\${path} must be one of: ${FAMILIES.join(', ')}`);
const families = yup.array(family.required());
const template = yup
  .string()
  .matches(
    TEMPLATE,
    '${path} must be fields like {part} {position}, with only spaces, _ - – . · + between them',
  );
const perFamily = <T extends yup.AnySchema>(value: T) =>
  yup.object(Object.fromEntries(FAMILIES.map((f) => [f, value])) as Record<Family, T>);

/** An object whose names are data: each name and each value is checked. */
const table = <T extends yup.Schema>(names: RegExp, value: T, most: number) =>
  yup
    .mixed<Record<string, unknown>>()
    .test('table', function (given) {
      if (given === undefined) return true;
      if (typeof given !== 'object' || given === null || Array.isArray(given))
        return this.createError({ message: `${this.path} must be names with values` });
      const entries = Object.entries(given);
      if (entries.length > most)
        return this.createError({ message: `${this.path} has more than ${most} entries` });
      for (const [name, v] of entries) {
        const path = `${this.path}.${name}`;
        if (!names.test(name))
          return this.createError({ path, message: `${path} is not a name that can stand here` });
        try {
          value.validateSync(v, { strict: true });
        } catch (cause) {
          return this.createError({
            path,
            message: `${path}: ${(cause as Error).message.replace(/^this /, '')}`,
          });
        }
      }
      return true;
    })
    .meta({ jsonSchema: { type: 'object', additionalProperties: schemaJson(value), maxProperties: most } });

/** Tests of a condition: what each of their values must be. */
const TEST_VALUES: { readonly [T in (typeof TESTS)[number]]: yup.Schema } = {
  nameHas: yup.string().trim().min(1).max(100).required(),
  nameIs: yup.string().trim().min(1).max(200).required(),
  nameMatches: yup
    .string()
    .min(1)
    .max(300)
    .required()
    .test(
      'pattern',
      'is no pattern by the rules of RE2 (without look-around and back references)',
      (v) => patternOf(v) !== null,
    ),
  family: family.required(),
  part: noun.required(),
  role: noun.required(),
  position: noun.required(),
  channels: yup.number().integer().min(1).max(32).required(),
  color: color.required(),
  folder: key.required(),
  row: yup
    .string()
    .oneOf([...ROW_KINDS])
    .required(),
  finding: yup
    .string()
    .oneOf([...FINDING_CODES])
    .required(),
  heard: yup
    .string()
    .oneOf([...SOUND_NAMES])
    .required(),
};
const MOST_VALUES = 200;

/** What is wrong with a condition: where below it, and in words; null = nothing. */
function conditionIssue(
  value: unknown,
  depth = 0,
): { readonly path: string; readonly message: string } | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return { path: '', message: 'must be a condition like {family: [drums]}' };
  if (depth > DEEPEST_CONDITION)
    return { path: '', message: `is nested more than ${DEEPEST_CONDITION} deep` };
  const known = Object.keys(value).filter((k) => ['all', 'any', 'not', ...TESTS].includes(k));
  const [name, ...more] = known;
  if (name === undefined || more.length > 0)
    return { path: '', message: `must have one of: all, any, not, ${TESTS.join(', ')}` };
  const inner = (value as Record<string, unknown>)[name];
  if (name === 'not') return within('not', conditionIssue(inner, depth + 1));
  if (name === 'nameMatches') return valueIssue(name, inner);
  if (!Array.isArray(inner) || inner.length > MOST_VALUES)
    return { path: `.${name}`, message: `must be a list of at most ${MOST_VALUES}` };
  for (const [i, x] of inner.entries()) {
    const issue =
      name === 'all' || name === 'any'
        ? conditionIssue(x, depth + 1)
        : valueIssue(name as (typeof TESTS)[number], x);
    if (issue) return within(`${name}[${i}]`, issue.path === `.${name}` ? { ...issue, path: '' } : issue);
  }
  return null;
}

const within = (step: string, issue: { readonly path: string; readonly message: string } | null) =>
  issue ? { ...issue, path: `.${step}${issue.path}` } : null;

function valueIssue(
  test: (typeof TESTS)[number],
  value: unknown,
): { readonly path: string; readonly message: string } | null {
  try {
    TEST_VALUES[test].validateSync(value, { strict: true });
    return null;
  } catch (cause) {
    return { path: `.${test}`, message: (cause as Error).message.replace(/^this /, '') };
  }
}

const condition = yup
  .mixed<Condition>()
  .nullable()
  .test('condition', function (value) {
    const issue = value === undefined || value === null ? null : conditionIssue(value);
    return issue
      ? this.createError({
          path: this.path + issue.path,
          message: `${this.path}${issue.path} ${issue.message}`,
        })
      : true;
  })
  .meta({ jsonSchema: { $ref: '#/$defs/condition' } });

/** A condition as a request may bring it. */
export const conditionSchema = condition;

/** A word of a house or a delivery: lower case, without marks, as names are compared. */
export const ownWordSchema = yup.object({
  text: yup
    .string()
    .matches(PLAIN_WORDS, '${path} must be one to four words without punctuation')
    .lowercase()
    .max(60)
    .required(),
  family: family.required(),
  part: noun.nullable().default(null),
});

/** Words of names that mean nothing in a house. */
export const junkSchema = yup
  .array(
    yup
      .string()
      .matches(PLAIN_WORDS, '${path} must be one to four words without punctuation')
      .lowercase()
      .max(60)
      .required(),
  )
  .max(500);

const between = ([least, most]: readonly [least: number, most: number]) =>
  yup.number().min(least, `\${path} must be at least ${least}`).max(most, `\${path} must be at most ${most}`);

/** How tracks are cut; what is missing is as for all tracks, or as in the default style. */
const cutSettings = () =>
  yup.object({
    thresholdDb: between(TIDY_LIMITS.thresholdDb).nullable(),
    shortestSeconds: between(TIDY_LIMITS.shortestSeconds),
    beforeSeconds: between(TIDY_LIMITS.beforeSeconds),
    afterSeconds: between(TIDY_LIMITS.afterSeconds),
    fadeSeconds: between(TIDY_LIMITS.fadeSeconds),
  });

const unique = <T>(by: (x: T) => string, what: string) => ({
  name: 'unique',
  message: `two entries of \${path} have the same ${what}`,
  test: (list: readonly T[] | undefined) =>
    list === undefined || new Set(list.map((x) => by(x))).size === list.length,
});

/** A house style as it may come from a file; whatever is left out is as in the default style, whatever is not known is kept. */
export const houseStyleSchema = yup
  .object({
    name: yup.string().trim().min(1).max(80),
    version: yup.number().integer().min(1),
    words: yup.array(ownWordSchema).max(2000),
    junk: junkSchema,
    names: yup.object({
      template,
      families: perFamily(template),
      parts: table(NOUN, template.required(), 200),
      words: table(WORD_KEY, yup.string().max(60).defined(), 1000),
      case: yup.string().oneOf(['capitals', 'lower', 'upper']),
      numbers: yup.string().oneOf(['digits', 'two-digits', 'letters']),
      longest: yup.number().integer().min(4).max(200),
      forbidden: yup.string().max(100),
    }),
    rules: yup
      .array(
        yup.object({
          name: yup.string().trim().min(1).max(80).required(),
          on: yup.boolean().default(true),
          when: condition.nonNullable().required(),
          then: yup
            .object({
              family,
              part: noun.nullable(),
              role: noun.nullable(),
              position: noun.nullable(),
              side: yup.string().oneOf(['left', 'right']).nullable(),
              name: yup.string().trim().min(1).max(100),
              color,
              folder: key,
              muted: yup.boolean(),
              pan: yup.number().min(-1).max(1),
            })
            .required(),
        }),
      )
      .max(500)
      .test(unique((r) => r.name, 'name')),
    colors: perFamily(color),
    partColors: table(NOUN, color.required(), 500),
    rowColors: yup.object({ return: color, 'mix-bus': color, section: color }),
    pictures: table(
      NOUN,
      yup
        .string<Picture>()
        .oneOf([...FAMILIES, ...MORE_PICTURES])
        .required(),
      500,
    ),
    folders: yup
      .array(
        yup.object({
          key: key.required(),
          name: yup.string().trim().min(1).max(60).required(),
          families: families.default([]),
          when: condition.default(null),
          parent: key.nullable().default(null),
          bus: yup.string().trim().min(1).max(60).nullable().default(null),
          atLeast: yup.number().integer().min(1).max(99).default(1),
          color: color.nullable().default(null),
          shades: yup
            .string()
            .oneOf([...SHADES])
            .default('own'),
        }),
      )
      .max(100)
      .test(unique((f) => f.key, 'key')),
    partOrder: yup.array(noun.required()).max(500),
    positionOrder: yup.array(noun.required()).max(100),
    fileWords: perFamily(
      yup.string().matches(/^[A-Za-z0-9_-]{1,16}$/, '${path} must be one word for file names'),
    ),
    fileJoin: yup.string().oneOf(['', '_', '-']),
    maxFileNameLength: yup.number().integer().min(8).max(64),
    muted: families,
    lenses: yup
      .array(
        yup.object({
          key: key.required(),
          name: yup.string().trim().min(1).max(40).required(),
          when: condition.nonNullable().required(),
        }),
      )
      .max(60)
      .test(unique((l) => l.key, 'key')),
    returns: yup
      .array(
        yup.object({
          key: key.required(),
          name: yup.string().trim().min(1).max(60).required(),
          color: color.nullable().default(null),
          into: key.nullable().default(null),
        }),
      )
      .max(40)
      .test(unique((r) => r.key, 'key')),
    sends: yup
      .array(
        yup.object({
          from: yup.string().oneOf(['tracks', 'sums']).default('tracks'),
          when: condition.nonNullable().required(),
          to: key.required(),
          gainDb: yup.number().min(-60).max(12).default(0),
          pan: yup.number().min(-1).max(1).nullable().default(null),
          before: yup.boolean().default(false),
        }),
      )
      .max(200),
    groups: yup
      .array(
        yup.object({
          key: key.required(),
          name: yup.string().trim().min(1).max(60).required(),
          when: condition.nonNullable().required(),
        }),
      )
      .max(60)
      .test(unique((g) => g.key, 'key')),
    cuts: yup.object({
      all: cutSettings().default(undefined),
      families: perFamily(cutSettings().default(undefined)).default(undefined),
    }),
    matching: yup.object({
      by: yup.string().oneOf([...MATCH_MEASURES]),
      each: yup.string().oneOf([...MATCH_UNITS]),
      lufs: perFamily(between([MATCH_LIMITS.lufs.min, MATCH_LIMITS.lufs.max]).nullable()).default(undefined),
      peakDb: between([MATCH_LIMITS.peakDb.min, MATCH_LIMITS.peakDb.max]),
      ceilingDbtp: between([MATCH_LIMITS.peakDb.min, MATCH_LIMITS.peakDb.max]),
      inFiles: yup.boolean(),
    }),
    atImport: yup.string().oneOf(['nothing', 'certain']),
    leadInBars: yup.number().integer().min(1).max(8),
    click: yup.object({
      sound: yup.string().oneOf([...CLICK_SOUNDS]),
      parts: yup.number().oneOf([...CLICK_PARTS]),
    }),
    takes: yup.string().oneOf(['none', 'all']),
  })
  .test('folders', function (style) {
    const folders = (style.folders ?? DEFAULT_STYLE.folders) as readonly FolderRule[];
    const known = new Set(folders.map((f) => f.key));
    for (const [i, f] of folders.entries())
      if (f.parent && (!known.has(f.parent) || ringFrom(folders, f)))
        return this.createError({
          path: `folders[${i}].parent`,
          message: `folders[${i}].parent: ${known.has(f.parent) ? 'a folder cannot stand in itself' : `there is no folder ${f.parent}`}`,
        });
    for (const [i, r] of (style.rules ?? []).entries())
      if (r.then.folder && !known.has(r.then.folder))
        return this.createError({
          path: `rules[${i}].then.folder`,
          message: `rules[${i}].then.folder: there is no folder ${r.then.folder}`,
        });
    const returns = new Set((style.returns ?? []).map((r) => r.key));
    for (const [i, r] of (style.returns ?? []).entries())
      if (r.into && !known.has(r.into))
        return this.createError({
          path: `returns[${i}].into`,
          message: `returns[${i}].into: there is no folder ${r.into}`,
        });
    for (const [i, s] of (style.sends ?? []).entries())
      if (!returns.has(s.to))
        return this.createError({
          path: `sends[${i}].to`,
          message: `sends[${i}].to: there is no return ${s.to}`,
        });
    return true;
  });

function ringFrom(folders: readonly FolderRule[], start: FolderRule): boolean {
  const seen = new Set<string>();
  for (let at: FolderRule | undefined = start; at; at = folders.find((f) => f.key === at?.parent)) {
    if (seen.has(at.key)) return true;
    seen.add(at.key);
  }
  return false;
}

/** One thing wrong with a style: where (`folders[2].parent`), and in words. */
export interface StyleIssue {
  readonly path: string;
  readonly message: string;
}

/** One value where a list may stand. */
function asLists(value: unknown, depth = 0): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value) || depth > DEEPEST_CONDITION + 1)
    return value;
  return Object.fromEntries(
    Object.entries(value).map(([k, v]) => [
      k,
      k === 'not'
        ? asLists(v, depth + 1)
        : (k === 'all' || k === 'any') && Array.isArray(v)
          ? v.map((x) => asLists(x, depth + 1))
          : k !== 'nameMatches' && (TESTS as readonly string[]).includes(k) && !Array.isArray(v)
            ? [v]
            : v,
    ]),
  );
}

function withLists(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  const whens = (list: unknown): unknown =>
    Array.isArray(list)
      ? list.map((x: unknown) =>
          typeof x === 'object' && x !== null && 'when' in x ? { ...x, when: asLists(x.when) } : x,
        )
      : list;
  const out: Record<string, unknown> = { ...value };
  for (const k of ['rules', 'folders', 'lenses', 'sends', 'groups']) if (k in out) out[k] = whens(out[k]);
  return out;
}

/** A style from parsed YAML or JSON: merged with the default, or all that is wrong with it. `unknown` are paths kept though nothing here reads them. */
export function parseHouseStyle(
  value: unknown,
): Result<
  { readonly style: HouseStyle; readonly unknown: readonly string[] },
  { readonly issues: readonly StyleIssue[] }
> {
  try {
    const given = houseStyleSchema.validateSync(withLists(value), { abortEarly: false, strict: true });
    const cast = houseStyleSchema.cast(given) as Partial<HouseStyle>;
    const lenses: readonly LensRule[] | undefined =
      cast.lenses ??
      cast.folders?.map(({ key: k, name, families: list, when }) => ({
        key: k,
        name,
        when: when && list.length > 0 ? { any: [{ family: list }, when] } : (when ?? { family: list }),
      }));
    const style: HouseStyle = {
      ...DEFAULT_STYLE,
      ...cast,
      names: { ...DEFAULT_STYLE.names, ...cast.names },
      colors: { ...DEFAULT_STYLE.colors, ...cast.colors },
      rowColors: { ...DEFAULT_STYLE.rowColors, ...cast.rowColors },
      fileWords: { ...DEFAULT_STYLE.fileWords, ...cast.fileWords },
      click: { ...DEFAULT_STYLE.click, ...cast.click },
      cuts: {
        all: { ...DEFAULT_STYLE.cuts.all, ...cast.cuts?.all },
        families: cast.cuts?.families ?? {},
      },
      matching: {
        ...DEFAULT_STYLE.matching,
        ...cast.matching,
        lufs: { ...DEFAULT_STYLE.matching.lufs, ...cast.matching?.lufs },
      },
      lenses: lenses ?? DEFAULT_STYLE.lenses,
    };
    return ok({ style, unknown: unknownPaths(value, houseStyleSchema.describe(), '') });
  } catch (cause) {
    if (cause instanceof yup.ValidationError)
      return err({
        issues: (cause.inner.length > 0 ? cause.inner : [cause]).map((e) => ({
          path: e.path ?? '',
          message: e.message,
        })),
      });
    throw cause;
  }
}

function unknownPaths(value: unknown, description: yup.SchemaFieldDescription, path: string): string[] {
  if (typeof value !== 'object' || value === null) return [];
  if (Array.isArray(value))
    return 'innerType' in description && description.innerType && !Array.isArray(description.innerType)
      ? value.flatMap((x, i) =>
          unknownPaths(x, description.innerType as yup.SchemaFieldDescription, `${path}[${i}]`),
        )
      : [];
  if (!('fields' in description)) return [];
  return Object.entries(value).flatMap(([k, v]) => {
    const at = path === '' ? k : `${path}.${k}`;
    const field = description.fields[k];
    return field ? unknownPaths(v, field, at) : [at];
  });
}

/** The same rules as a JSON Schema (2020-12), for editors that check a file while it is written. */
export function styleJsonSchema(): object {
  const tests = Object.fromEntries(
    TESTS.map((t) => [
      t,
      t === 'nameMatches'
        ? schemaJson(TEST_VALUES[t])
        : {
            anyOf: [
              schemaJson(TEST_VALUES[t]),
              { type: 'array', items: schemaJson(TEST_VALUES[t]), maxItems: MOST_VALUES },
            ],
          },
    ]),
  );
  const inner = { $ref: '#/$defs/condition' };
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Fernmoss house style',
    ...schemaJson(houseStyleSchema),
    $defs: {
      condition: {
        type: ['object', 'null'],
        properties: {
          all: { type: 'array', items: inner },
          any: { type: 'array', items: inner },
          not: inner,
          ...tests,
        },
      },
    },
  };
}
