import type { Field } from './field';

/** The fields of a kind of record. */
export type Fields = Readonly<Record<string, Field<unknown>>>;

/** A record as its fields say. */
export type Values<F extends Fields> = {
  readonly [K in keyof F]: F[K] extends Field<infer T> ? T : never;
};

/** A kind of record. */
export interface Kind<F extends Fields = Fields> {
  /** Name of its table. */
  readonly table: string;
  readonly fields: F;
  /** What a person knows it by. */
  readonly title: (record: Values<F>) => string;
  /** Whether a page may put one in or take one out; what comes with recordings is changed only. */
  readonly isMadeByHand: boolean;
  /** More of them than anybody keeps in one session. */
  readonly most: number;
}

/** As many rows as a session can hold. */
const MOST_ROWS = 20_000;

/** Declares a kind; its type keeps what each field holds. */
export const kind = <const F extends Fields>(
  table: string,
  fields: F,
  title: (record: Values<F>) => string,
  { isMadeByHand = true, most = MOST_ROWS }: { readonly isMadeByHand?: boolean; readonly most?: number } = {},
): Kind<F> => ({ table, fields, title, isMadeByHand, most });
