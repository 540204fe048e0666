import { Sequelize, Transaction } from 'sequelize';
import { readConfig } from '../config';
import { currentTransaction, transactionNamespace } from './current-transaction';
import { initModels, SessionModel } from './models';

const cache = globalThis as { fernmossDb?: Sequelize };

/** Nothing waits for ever: a statement, a lock, or a transaction that its process has forgotten, ms. */
const TIMEOUTS = {
  statement_timeout: 60_000,
  lock_timeout: 30_000,
  idle_in_transaction_session_timeout: 600_000,
};

/** The connection of this process, made at first use. Next bundles this module more than once: each copy binds its own models. */
export function db(): Sequelize {
  // eslint-disable-next-line react-hooks/rules-of-hooks -- no hook, only a name that begins like one
  if (!cache.fernmossDb) Sequelize.useCLS(transactionNamespace);
  cache.fernmossDb ??= new Sequelize(readConfig().databaseUrl, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 12, idle: 10_000 },
    dialectOptions: TIMEOUTS,
  });
  if (SessionModel.sequelize !== cache.fernmossDb) initModels(cache.fernmossDb);
  return cache.fernmossDb;
}

/** Runs reads that must fit together: all see the database as it was at one moment. Within a transaction they are part of that. */
export const inSnapshot = <T>(work: () => Promise<T>): Promise<T> =>
  currentTransaction()
    ? work()
    : db().transaction(
        { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ },
        async (transaction) => {
          await db().query('set transaction read only', { transaction });
          return work();
        },
      );

/** Closes the connection; the next `db()` opens another. */
export async function closeDb(): Promise<void> {
  await cache.fernmossDb?.close();
  delete cache.fernmossDb;
}
