import * as yup from 'yup';
import { FAMILIES, type NameReading, type OwnWord } from '@/core/naming';
import type { CorrectedName, NameLesson } from '@/core/style';
import { junkSchema, ownWordSchema } from './house-style';

/** The names of a delivery, and words that go before those of the trade. */
export interface AskedNames {
  readonly names: readonly string[];
  readonly own: readonly OwnWord[];
  readonly junk: readonly string[];
}

/** What is asked of who knows the lexicon: readings of names, names like one of them, or what its correction teaches. */
export type NamesQuestion =
  | ({ readonly kind: 'read' } & AskedNames)
  | ({ readonly kind: 'siblings'; readonly at: number } & AskedNames)
  | ({ readonly kind: 'lessons' } & CorrectedName);

/** What it answers: the readings; places of the siblings; what could be learned. */
export interface NamesAnswers {
  readonly read: readonly NameReading[];
  readonly siblings: readonly number[];
  readonly lessons: readonly NameLesson[];
}

/** Names with their readings. */
export interface ReadList extends AskedNames {
  readonly readings: readonly NameReading[];
}

/** Most names of one question, and their length: more than a session takes in. */
const MOST_NAMES = 20_000;
const LONGEST_NAME = 5000;

const at = yup
  .number()
  .integer()
  .min(0)
  .when(['kind', 'names'], ([kind, names], schema) =>
    kind === 'read' ? schema : schema.max(Math.max(0, (names as unknown[]).length - 1)).required(),
  );

/** A question as a request brings it. */
export const namesQuestionSchema = yup
  .object({
    kind: yup.string().oneOf(['read', 'siblings', 'lessons']).required(),
    names: yup.array(yup.string().max(LONGEST_NAME).defined()).max(MOST_NAMES).required(),
    own: yup.array(ownWordSchema).max(4000).required(),
    junk: junkSchema.required(),
    at,
    said: yup
      .object({
        family: yup.string().oneOf(FAMILIES).required(),
        part: yup.string().max(60).nullable().defined(),
      })
      .noUnknown()
      .default(undefined)
      .when('kind', ([kind], schema) => (kind === 'lessons' ? schema.required() : schema)),
  })
  .noUnknown();
