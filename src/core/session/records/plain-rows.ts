import * as yup from 'yup';

/** What a column of {@link rows} may hold. */
export interface Column {
  readonly type: 'number' | 'integer' | 'boolean';
  readonly min?: number;
  readonly max?: number;
  /** May be left out; default false. */
  readonly optional?: boolean;
}

/** A column of numbers. */
export const numbers = (min: number, max: number, more: Partial<Column> = {}): Column => ({
  type: 'number',
  min,
  max,
  ...more,
});

/**
 * A list of up to 100,000 flat objects of numbers and booleans, checked by one plain loop that ends at the first fault:
 * with a schema for each cell, a song's worth of pulses held the whole process for seconds. Casts nothing.
 */
export const rows = <T>(columns: Readonly<Record<keyof T & string, Column>>) =>
  yup
    .array<yup.AnyObject, T>()
    .max(100_000)
    .test('rows', (value, context) => {
      const fault = Array.isArray(value) ? faultInRows(value, columns) : null;
      return fault === null || context.createError({ message: `${context.path}${fault}` });
    });

/** Path and words of the first fault; null = none. */
function faultInRows(list: readonly unknown[], columns: Readonly<Record<string, Column>>): string | null {
  const needed = Object.keys(columns).filter((name) => !columns[name]?.optional);
  for (const [i, row] of list.entries()) {
    if (typeof row !== 'object' || row === null || Array.isArray(row)) return `[${i}] must be an object`;
    const missing = needed.find((name) => !Object.hasOwn(row, name));
    if (missing !== undefined) return `[${i}].${missing} is a required field`;
    for (const [name, cell] of Object.entries(row)) {
      const column = Object.hasOwn(columns, name) ? columns[name] : undefined;
      if (!column) return `[${i}] has an unknown field`;
      const fault = faultInCell(cell, column);
      if (fault !== null) return `[${i}].${name} ${fault}`;
    }
  }
  return null;
}

function faultInCell(cell: unknown, { type, min = -Infinity, max = Infinity }: Column): string | null {
  if (type === 'boolean') return typeof cell === 'boolean' ? null : 'must be true or false';
  if (typeof cell !== 'number' || !Number.isFinite(cell)) return 'must be a number';
  if (type === 'integer' && !Number.isInteger(cell)) return 'must be an integer';
  return cell < min ? `must be at least ${min}` : cell > max ? `must be at most ${max}` : null;
}

/** A list of at most `most` things, each checked by one plain test. */
export const plainList = <T>(most: number, isFit: (item: unknown) => boolean) =>
  yup
    .array<yup.AnyObject, T>()
    .max(most)
    .test('list', '${path} holds something unfit', (list) => !Array.isArray(list) || list.every(isFit));

/** A list of ids of our own making, checked by one plain loop. */
export const ids = (max: number) =>
  yup
    .array<yup.AnyObject, string>()
    .max(max)
    .test('ids', '${path} holds something that is no id', (list) =>
      (list ?? []).every((x) => typeof x === 'string' && isOwnId(x)),
    );

/** Whether a text can be an id of ours. Names that every JavaScript object answers to cannot: a record looked up by one would seem to be there. */
export const isOwnId = (text: string): boolean =>
  /^[A-Za-z0-9_-]{1,64}$/.test(text) && !(text in Object.prototype);
