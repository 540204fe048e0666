/** Outcome of an operation whose input may be at fault; `error` is data (a code and facts), never a sentence. */
export type Result<T, E> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: E };

/** A good outcome. */
export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });

/** A fault found in the data. */
export const err = <E>(error: E): { readonly ok: false; readonly error: E } => ({ ok: false, error });

/** Closes a switch over a union: a new member is a compile error. Throws RangeError if reached at run time. */
export function assertNever(value: never): never {
  throw new RangeError(`unexpected value ${JSON.stringify(value)}`);
}
