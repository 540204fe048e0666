import { QueryTypes, Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { db, migrate } from '@/server/db';
import { MIGRATIONS } from '@/server/db/migrations';

it('is at the newest step', async () => {
  expect(await migrate()).toEqual([]);
});

it('goes forward, back and forward again on an empty schema', async () => {
  const schema = `steps_${process.pid}`;
  await db().query(`create schema ${schema}`);
  const own = new Sequelize(process.env.FERNMOSS_DATABASE_URL ?? '', {
    dialect: 'postgres',
    logging: false,
    dialectOptions: { options: `-c search_path=${schema}` },
  });
  try {
    const query = own.getQueryInterface();
    const umzug = new Umzug({
      migrations: MIGRATIONS.map((m) => ({ name: m.name, up: () => m.up(query), down: () => m.down(query) })),
      storage: new SequelizeStorage({ sequelize: own, tableName: 'migrations', schema }),
      logger: undefined,
    });
    const tables = async (): Promise<string[]> =>
      (
        await own.query<{ table_name: string }>(
          'select table_name from information_schema.tables where table_schema = :schema order by 1',
          { replacements: { schema }, type: QueryTypes.SELECT },
        )
      ).map((r) => r.table_name);
    await umzug.up();
    const first = await tables();
    expect(first).toEqual(
      expect.arrayContaining(['sessions', 'tracks', 'edits', 'jobs', 'handovers', 'recordings']),
    );
    await umzug.down({ to: 0 });
    expect(await tables()).toEqual(['migrations']);
    await umzug.up();
    expect(await tables()).toEqual(first);
  } finally {
    await own.close();
    await db().query(`drop schema ${schema} cascade`);
  }
});

it('the database itself refuses what must not be', async () => {
  const refuse = async (sql: string): Promise<void> => {
    await expect(db().query(sql)).rejects.toThrow();
  };
  await refuse(
    `insert into recordings (id, session_id, received_name, size_bytes, state) values (gen_random_uuid(), gen_random_uuid(), 'x', 1, 'waiting')`,
  );
  await refuse(
    `insert into jobs (id, kind, subject, payload, state) values (gen_random_uuid(), 'x', 'x', '{}', 'sleeping')`,
  );
  await refuse(
    `insert into meters (session_id, bar, numerator, denominator) values (gen_random_uuid(), 1, 4, 5)`,
  );
});
