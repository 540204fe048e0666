import { Sequelize } from 'sequelize';

/** Runs one statement as the cluster's administrator: the application's role may not make databases. */
export async function asAdministrator(statement: string): Promise<void> {
  const own = new Sequelize(process.env.FERNMOSS_ADMINISTRATOR_URL ?? '', {
    dialect: 'postgres',
    logging: false,
  });
  try {
    await own.query(statement);
  } finally {
    await own.close();
  }
}

/** Makes an empty database that belongs to the application's role; returns its address. */
export async function makeDatabase(name: string): Promise<string> {
  const url = new URL(process.env.FERNMOSS_DATABASE_URL ?? '');
  await asAdministrator(`create database ${name} owner ${url.username}`);
  url.pathname = `/${name}`;
  return url.href;
}
