import { RE2JS } from 're2js';
import { err, ok, type Result } from '../units';
import { toSafeText } from './tokens';

/** What is done to many names at once, in this order. */
export interface Rename {
  /** Looked for in each name; empty = nothing. */
  readonly find: string;
  readonly replace: string;
  /** `find` is a pattern; `replace` may hold `$1`, `$2` …, one that is not there stays as written. */
  readonly isPattern: boolean;
  /** Whether `find` tells capitals from small letters. */
  readonly minds: boolean;
  readonly letters: 'as-they-are' | 'small' | 'capitals' | 'Each Word';
  readonly before: string;
  readonly after: string;
  /** First number and its least digits; null = no numbers. */
  readonly number: { readonly first: number; readonly digits: number } | null;
}

/** Nothing to do. */
export const NO_RENAME: Rename = {
  find: '',
  replace: '',
  isPattern: false,
  minds: false,
  letters: 'as-they-are',
  before: '',
  after: '',
  number: null,
};

const LONGEST_NAME = 120;
const LONGEST_PATTERN = 500;

/**
 * New names in the order given; a name that would become empty stays. Patterns are of RE2's syntax, whose time grows with the length of the name alone, whatever the pattern.
 * Refused with words when the pattern cannot be read.
 */
export function renameAll(
  names: readonly string[],
  rename: Rename,
): Result<string[], { readonly code: 'rename.pattern'; readonly reason: string }> {
  const { letters, before, after, number } = rename;
  let replaced: (name: string) => string;
  try {
    replaced = replacer(rename);
  } catch (cause) {
    return err({
      code: 'rename.pattern',
      reason:
        cause instanceof Error
          ? cause.message.replace(/^error parsing regexp: /, '').replace('(?i)', '')
          : 'unreadable',
    });
  }
  return ok(
    names.map((name, i) => {
      const counted = number ? ` ${String(number.first + i).padStart(number.digits, '0')}` : '';
      const made = toSafeText(
        `${before}${inLetters(replaced(name), letters)}${after}${counted}`,
        LONGEST_NAME,
      );
      return made === '' ? name : made;
    }),
  );
}

function replacer({ find, replace, isPattern, minds }: Rename): (name: string) => string {
  if (find === '') return (name) => name;
  if (find.length > LONGEST_PATTERN) throw new RangeError(`longer than ${LONGEST_PATTERN} characters`);
  const pattern = RE2JS.compile(isPattern ? find : RE2JS.quote(find), minds ? 0 : RE2JS.CASE_INSENSITIVE);
  const put = isPattern ? replace : replace.replace(/\$/g, '$$$$');
  return (name) => pattern.matcher(name).replaceAll(put);
}

function inLetters(name: string, letters: Rename['letters']): string {
  switch (letters) {
    case 'as-they-are':
      return name;
    case 'small':
      return name.toLowerCase();
    case 'capitals':
      return name.toUpperCase();
    // Short words in capitals are abbreviations: DI, OH, L.
    case 'Each Word':
      return name.replace(/[\p{L}\p{M}]+/gu, (word) =>
        word.length <= 3 && word === word.toUpperCase()
          ? word
          : word.charAt(0).toUpperCase() + word.slice(1).toLowerCase(),
      );
  }
}
