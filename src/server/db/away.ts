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

/** Whether something failed only because the database was not there (stopped, starting, killed): it can be done again, nothing is wrong with it. */
export function isDatabaseAway(cause: unknown): boolean {
  for (
    let error = cause as
        | {
            name?: string;
            code?: string;
            message?: string;
            parent?: unknown;
            original?: unknown;
            cause?: unknown;
          }
        | null
        | undefined,
      depth = 0;
    error && depth < 5;
    depth++
  ) {
    if (
      /^SequelizeConnection/.test(error.name ?? '') ||
      CODES.has(error.code ?? '') ||
      WORDS.test(error.message ?? '')
    )
      return true;
    error = (error.parent ?? error.original ?? error.cause) as typeof error;
  }
  return false;
}
