const CODES = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  '57P01',
  '57P02',
  '57P03',
  '08000',
  '08003',
  '08006',
]);
const WORDS =
  /connection terminated|terminating connection|server closed the connection|database system is|client has encountered a connection error|not queryable/i;

/** What Sequelize and pg throw, as far as it is looked at here. */
interface Thrown {
  readonly name?: string;
  readonly code?: string;
  readonly message?: string;
  readonly parent?: unknown;
  readonly original?: unknown;
  readonly cause?: unknown;
}

/** An error and what lies below it. */
function chainOf(cause: unknown): Thrown[] {
  const chain: Thrown[] = [];
  for (let error = cause as Thrown | null | undefined; error && chain.length < 5;)
    error = (chain[chain.push(error) - 1]?.parent ?? error.original ?? error.cause) as typeof error;
  return chain;
}

/** Whether something failed only because the database was not there (stopped, starting, killed): it can be done again, nothing is wrong with it. */
export const isDatabaseAway = (cause: unknown): boolean =>
  chainOf(cause).some(
    (error) =>
      /^SequelizeConnection/.test(error.name ?? '') ||
      CODES.has(error.code ?? '') ||
      WORDS.test(error.message ?? ''),
  );

/** Why a statement was refused, by its SQLSTATE (PostgreSQL, appendix A); null = for another reason, or none of the database's. */
export function refusalOf(cause: unknown): 'bad-value' | 'reference' | 'disk-full' | 'time-out' | null {
  for (const { code = '' } of chainOf(cause)) {
    if (/^22[0-9A-Z]{3}$/.test(code)) return 'bad-value';
    if (code === '23503') return 'reference';
    if (code === '53100') return 'disk-full';
    if (code === '57014' || code === '55P03') return 'time-out';
  }
  return null;
}
