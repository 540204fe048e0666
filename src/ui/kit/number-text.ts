/** What a number typed by a person may be. */
export interface NumberRange {
  readonly min: number;
  readonly max: number;
  /** The unit it may be typed with, as it is shown; '' = none. */
  readonly unit?: string;
}

/** A number as it was typed, or why it is none. */
export type TypedNumber = { readonly value: number } | { readonly error: string };

const EXAMPLE = 'write a number like −3 or 2.5; += and −= change what is there';

/** From here on a comma before three digits parts thousands: nobody types a level of 1,000. */
const THOUSANDS_FROM = 1000;

/** A number with its decimals after a point: `3,5`, and `48,000` where so large a number can be meant. */
function withPoint(text: string, { min, max }: NumberRange): string {
  const isLarge = Math.max(-min, max) >= THOUSANDS_FROM && /^\D*\d{1,3}(,\d{3})+(?![\d,])/u.test(text);
  return isLarge ? text.replaceAll(',', '') : text.replace(',', '.');
}

/**
 * Reads a typed number: decimals by point or comma, any minus sign, its unit if one likes, and steps (`+=2`, `-=0.5`)
 * from the number `now`. What lies beyond the range is an error that says the limit.
 */
export function readNumber(text: string, range: NumberRange, now = 0): TypedNumber {
  const plain = withPoint(
    text
      .normalize('NFKC')
      .replace(/[−–—]/gu, '-')
      .replace(/[\s'’]+/gu, ''),
    range,
  );
  const unit = (range.unit ?? '').toLowerCase().replace(/\s+/gu, '');
  const bare = unit !== '' && plain.toLowerCase().endsWith(unit) ? plain.slice(0, -unit.length) : plain;
  const found = /^([+-]=)?([+-]?(?:\d+\.?\d*|\.\d+))$/u.exec(bare);
  if (!found)
    return { error: text.trim() === '' ? `Nothing typed: ${EXAMPLE}.` : `Not a number: ${EXAMPLE}.` };
  const typed = Number(found[2]);
  const value = found[1] === undefined ? typed : found[1] === '+=' ? now + typed : now - typed;
  const shown = (limit: number): string =>
    `${String(limit).replace('-', '−')}${range.unit ? ` ${range.unit}` : ''}`;
  if (value < range.min) return { error: `At least ${shown(range.min)}.` };
  if (value > range.max) return { error: `At most ${shown(range.max)}.` };
  // Steps of a tenth do not add up in binary.
  return { value: Number(value.toFixed(6)) };
}
