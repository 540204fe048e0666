/** Reads rows, within a transaction. */
export interface Reader {
  select(
    sql: string,
    replacements: Readonly<Record<string, unknown>>,
  ): Promise<Readonly<Record<string, unknown>>[]>;
}
