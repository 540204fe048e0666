import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { readConfig } from '../config';
import { MIGRATIONS } from './migrations';
import { initModels, SessionModel } from './models';

const cache = globalThis as { fernmossDb?: Sequelize };

/** The connection of this process, made at first use. Next bundles this module more than once: each copy binds its own models. */
export function db(): Sequelize {
  cache.fernmossDb ??= new Sequelize(readConfig().databaseUrl, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 12, idle: 10_000 },
  });
  if (SessionModel.sequelize !== cache.fernmossDb) initModels(cache.fernmossDb);
  return cache.fernmossDb;
}

/** Steps forward to the newest schema, or `down` to before the first; returns the names of the steps taken. */
export async function migrate(direction: 'up' | 'down' = 'up'): Promise<string[]> {
  const sequelize = db();
  const query = sequelize.getQueryInterface();
  const umzug = new Umzug({
    migrations: MIGRATIONS.map((m) => ({ name: m.name, up: () => m.up(query), down: () => m.down(query) })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  const steps = direction === 'up' ? await umzug.up() : await umzug.down({ to: 0 });
  return steps.map((s) => s.name);
}

/** Closes the connection; the next `db()` opens another. */
export async function closeDb(): Promise<void> {
  await cache.fernmossDb?.close();
  delete cache.fernmossDb;
}
