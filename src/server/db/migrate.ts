import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { Umzug } from 'umzug';
import { MIGRATIONS, type Migration } from './migrations';
import { SchemaWriter } from './schema-writer';

/** Number of the lock under which the schema changes. */
const SCHEMA_LOCK = 7_061_979;

/** A step may rewrite large tables: the time-outs of requests are not for it. */
const WITHOUT_TIMEOUTS = 'set local statement_timeout = 0; set local lock_timeout = 0';

/**
 * Steps forward to the newest schema, or `down` to before the first; returns the names of the steps taken.
 * A step and the note that it was taken are one transaction under a lock: a kill inside leaves the schema as it
 * was before the step, and of two processes that begin at once one waits for the other.
 */
export async function migrateSchema(
  sequelize: Sequelize,
  direction: 'up' | 'down' = 'up',
  migrations: readonly Migration[] = MIGRATIONS,
): Promise<string[]> {
  await exclusively(sequelize, (transaction) =>
    sequelize
      .query('create table if not exists migrations (name varchar(255) primary key)', { transaction })
      .then(() => undefined),
  );
  const taken: string[] = [];
  const step = (migration: Migration, way: 'up' | 'down'): Promise<void> =>
    exclusively(sequelize, async (transaction) => {
      const isRecorded = (await recorded(sequelize, migration.name, transaction)).length > 0;
      if (isRecorded === (way === 'up')) return;
      await migration[way](new SchemaWriter(sequelize.getQueryInterface(), transaction));
      await sequelize.query(
        way === 'up'
          ? 'insert into migrations (name) values (:name)'
          : 'delete from migrations where name = :name',
        { replacements: { name: migration.name }, transaction },
      );
      taken.push(migration.name);
    });
  const umzug = new Umzug({
    migrations: migrations.map((m) => ({
      name: m.name,
      up: () => step(m, 'up'),
      down: () => step(m, 'down'),
    })),
    storage: {
      executed: () => recorded(sequelize),
      // Noted by the step itself, in its transaction.
      logMigration: () => Promise.resolve(),
      unlogMigration: () => Promise.resolve(),
    },
    logger: undefined,
  });
  await (direction === 'up' ? umzug.up() : umzug.down({ to: 0 }));
  return taken;
}

const exclusively = (
  sequelize: Sequelize,
  work: (transaction: Transaction) => Promise<void>,
): Promise<void> =>
  sequelize.transaction(async (transaction) => {
    await sequelize.query(WITHOUT_TIMEOUTS, { transaction });
    await sequelize.query(`select pg_advisory_xact_lock(${SCHEMA_LOCK})`, { transaction });
    await work(transaction);
  });

async function recorded(sequelize: Sequelize, name?: string, transaction?: Transaction): Promise<string[]> {
  const rows = await sequelize.query<{ name: string }>(
    'select name from migrations where :name::text is null or name = :name order by name',
    { replacements: { name: name ?? null }, type: QueryTypes.SELECT, transaction },
  );
  return rows.map((r) => r.name);
}
