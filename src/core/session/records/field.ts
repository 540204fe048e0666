import * as yup from 'yup';
import type { Random } from '../../units';
import { isOwnId } from './plain-rows';
import { maybeUuid } from './uuid';

/** How a field lies in its table. */
export type ColumnType = 'text' | 'integer' | 'bigint' | 'double' | 'boolean' | 'uuid' | 'json';

/**
 * How two changes of one field become one: `value` contradicts unless it is the same; of `latest` the last word holds;
 * of a `set` what each side put in or took out holds; `either` is true if one side said so; of `parts` each key is
 * merged for itself.
 */
export type Merge = 'value' | 'latest' | 'set' | 'either' | 'parts';

/** A field that names another record of the session. */
export interface Reference {
  readonly kind: 'folder' | 'track' | 'lane' | 'bus';
  /** The record goes when the other one does. */
  readonly isOwner?: boolean;
  /** Texts that stand for no record. */
  readonly none?: string;
}

/** All there is to know of one field of a record. */
export interface Field<T> {
  /** What it may hold. */
  readonly schema: yup.AnySchema;
  readonly column: ColumnType;
  /** What it is where nothing was said; undefined = it must be said. */
  readonly initial: T | undefined;
  readonly merge: Merge;
  readonly refersTo: Reference | null;
  /** Comes with a recording: no page sets it. */
  readonly isReceived: boolean;
  /** A value for tests; `ids` are those of records it may name. */
  readonly random: (random: Random, ids: readonly string[]) => T;
}

/** Farthest from the common zero, frames. */
export const FARTHEST_FRAMES = 2 ** 40;

type More<T> = Partial<Pick<Field<T>, 'initial' | 'merge' | 'isReceived'>>;

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

function field<T>(
  column: ColumnType,
  schema: yup.AnySchema,
  random: Field<T>['random'],
  more: More<T> & { readonly refersTo?: Reference } = {},
): Field<T> {
  return {
    column,
    schema,
    random,
    initial: more.initial,
    merge: more.merge ?? 'value',
    refersTo: more.refersTo ?? null,
    isReceived: more.isReceived ?? false,
  };
}

/** The same field where it may also be null. */
export const nullable = <T>(of: Field<T>): Field<T | null> => ({
  ...of,
  schema: (of.schema as yup.MixedSchema).nullable(),
  random: (random, ids) => (random() < 0.3 ? null : of.random(random, ids)),
});

/** A text of at most `max` characters; `min` counts after blanks at its ends are taken off. */
export const text = (
  max: number,
  { min = 0, ...more }: More<string> & { readonly min?: number } = {},
): Field<string> =>
  field(
    'text',
    min > 0 ? yup.string().max(max).trim().min(min) : yup.string().max(max),
    (random) => `text ${Math.floor(40 * random())}`,
    more,
  );

/** One of some words. */
export const oneOf = <const T extends string>(words: readonly T[], more: More<T> = {}): Field<T> =>
  field('text', yup.string().oneOf([...words]), (random) => pick(random, words), more);

/** A number from `min` to `max`. */
export const number = (min: number, max: number, more: More<number> = {}): Field<number> =>
  field(
    'double',
    yup.number().min(min).max(max),
    (random) => min + Math.floor(random() * Math.min(64, max - min)) / 2,
    more,
  );

/** A whole number from `min` to `max`. */
export const integer = (min: number, max: number, more: More<number> = {}): Field<number> =>
  field(
    max > 2 ** 31 - 1 ? 'bigint' : 'integer',
    yup.number().integer().min(min).max(max),
    (random) => Math.max(min, 0) + Math.floor(random() * Math.min(64, max - Math.max(min, 0))),
    more,
  );

/** True or false. */
export const flag = (more: More<boolean> = {}): Field<boolean> =>
  field('boolean', yup.boolean(), (random) => random() < 0.5, more);

/** `#rrggbb`. */
export const colour = (more: More<string> = {}): Field<string> =>
  field(
    'text',
    yup.string().matches(/^#[0-9a-f]{6}$/i),
    (random) =>
      `#${Math.floor(random() * 0x1000000)
        .toString(16)
        .padStart(6, '0')}`,
    more,
  );

const ownId = yup
  .string()
  .test('id', '${path} is not an id', (value) => value === undefined || value === null || isOwnId(value));

/** The id of another record of the session. */
export const reference = (refersTo: Reference, more: More<string> = {}): Field<string> =>
  field(
    'text',
    ownId,
    (random, ids) => (refersTo.none !== undefined && random() < 0.1 ? refersTo.none : pick(random, ids)),
    { ...more, refersTo },
  );

/** The id of something outside the session that PostgreSQL holds as a UUID. */
export const outside = (more: More<string> = {}): Field<string> =>
  field(
    'uuid',
    maybeUuid(),
    (random) => `00000000-0000-4000-8000-0000000000${10 + Math.floor(random() * 80)}`,
    more,
  );

/** Where a record stands among its like: texts that sort as the records do. */
export const orderKey = (): Field<string> =>
  field(
    'text',
    yup
      .string()
      .matches(/^[A-Za-z][0-9A-Za-z]*$/, '${path} is no key of an order')
      .max(400),
    (random) => pick(random, ['a0', 'a1', 'a2', 'a3', 'a1V']),
    { merge: 'latest' },
  );

/** A value that lies in the database as a whole, checked by its own schema. */
export const whole = <T>(schema: yup.AnySchema, random: Field<T>['random'], more: More<T> = {}): Field<T> =>
  field('json', schema, random, more);
