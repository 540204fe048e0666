import * as yup from 'yup';
import { FAMILIES } from '../../naming';
import { type Field, nullable, oneOf, orderKey, text } from './field';
import { kind } from './kind';

/** One to four words, without punctuation. */
export const PLAIN_WORDS = /^[\p{L}\p{N}#&]+( [\p{L}\p{N}#&]+){0,3}$/u;

/** A noun as parts are called: `hand-drum`. */
export const NOUN = /^[a-z0-9][a-z0-9-]{0,39}$/;

const noun = (): Field<string> => ({
  ...text(40),
  schema: yup.string().matches(NOUN, '${path} must be a noun like hand-drum'),
  random: (random) => `part-${Math.floor(9 * random())}`,
});
const words = (): Field<string> => ({
  ...text(60),
  schema: yup
    .string()
    .matches(PLAIN_WORDS, '${path} must be one to four words without punctuation')
    .lowercase()
    .max(60),
  random: (random) => `word${Math.floor(40 * random())}`,
});

/** What a word of names means in this delivery; it goes before the house style's. */
export const WORD = kind(
  'delivery_words',
  {
    orderKey: orderKey(),
    /** Lower case, without marks, one space between words. No other record says the same text. */
    text: words(),
    family: oneOf(FAMILIES),
    part: nullable(noun()),
  },
  ({ text: said }) => said,
  { most: 2000 },
);
