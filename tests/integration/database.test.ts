import { spawn, type ChildProcess } from 'node:child_process';
import { QueryTypes, Sequelize, type Transaction } from 'sequelize';
import {
  type Edit,
  type Field,
  isUncut,
  KINDS,
  RECORD_KINDS,
  recordsOf,
  type Track,
  tracksInOrder,
} from '@/core/session';
import { db, EditModel, loadSession, migrate, SnapshotModel } from '@/server/db';
import { dropClips, makeClips } from '@/server/db/clip-tables';
import { migrateSchema } from '@/server/db/migrate';
import { MIGRATIONS } from '@/server/db/migrations';
import { SchemaWriter } from '@/server/db/schema-writer';
import { asAdministrator, makeDatabase } from '../support/databases';
import { tone, wavBytes } from '../support/recordings';
import { call, edit, newSession, settled, upload, viewOf } from '../support/server';

it('is at the newest step', async () => {
  expect(await migrate()).toEqual([]);
});

it('goes forward, back and forward again on an empty schema', async () => {
  await withDatabase('steps', async (_url, own) => {
    const tables = async (): Promise<string[]> =>
      (
        await own.query<{ table_name: string }>(
          "select table_name from information_schema.tables where table_schema = 'public' order by 1",
          { type: QueryTypes.SELECT },
        )
      ).map((r) => r.table_name);
    expect(await migrateSchema(own)).toEqual(MIGRATIONS.map((m) => m.name));
    const first = await tables();
    expect(first).toEqual(
      expect.arrayContaining(['sessions', 'tracks', 'edits', 'jobs', 'handovers', 'recordings']),
    );
    await migrateSchema(own, 'down');
    expect(await tables()).toEqual(['migrations']);
    await migrateSchema(own);
    expect(await tables()).toEqual(first);
  });
});

it('two processes that begin at once take every step once', async () => {
  await withDatabase('at_once', async (url, own) => {
    const other = new Sequelize(url, { dialect: 'postgres', logging: false });
    try {
      const taken = (await Promise.all([migrateSchema(own), migrateSchema(other)])).flat();
      expect(taken.sort()).toEqual(MIGRATIONS.map((m) => m.name));
    } finally {
      await other.close();
    }
  });
});

it('kill -9 in every step: the next start goes on from there', async () => {
  await withDatabase('killed', async (url, own) => {
    const start = (): ChildProcess =>
      spawn(process.execPath, ['dist/worker.mjs', '--migrate'], {
        env: { ...process.env, FERNMOSS_DATABASE_URL: url },
        stdio: 'ignore',
      });
    const asleep = async (): Promise<number[]> =>
      (
        await own.query<{ pid: number }>(
          "select pid from pg_stat_activity where datname = current_database() and wait_event = 'PgSleep'",
          { type: QueryTypes.SELECT },
        )
      ).map((r) => r.pid);
    // Every step stands still after its work and before its commit, until the hold on it is taken away.
    await own.query('create table migrations (name varchar(255) primary key)');
    await own.query('create table holds (name text primary key)');
    await own.query(
      `create function hold() returns trigger language plpgsql as
       'begin if exists (select 1 from holds where name = new.name) then perform pg_sleep(60); end if; return new; end'`,
    );
    await own.query('create trigger hold before insert on migrations for each row execute function hold()');
    for (const { name } of MIGRATIONS)
      await own.query('insert into holds values (:name)', { replacements: { name } });
    for (const [index, { name }] of MIGRATIONS.entries()) {
      const child = start();
      let pids: number[] = [];
      while (pids.length === 0 && child.exitCode === null) pids = await asleep();
      expect(pids).toHaveLength(1);
      child.kill('SIGKILL');
      // The server notices that its client is gone only when it next writes.
      await own.query(`select pg_terminate_backend(${pids[0]})`);
      // Gone only after a moment, it would be taken for the next one.
      while ((await asleep()).length > 0) await new Promise((done) => setTimeout(done, 20));
      const [row] = await own.query<{ count: string }>('select count(*) from migrations', {
        type: QueryTypes.SELECT,
      });
      expect([name, Number(row?.count)]).toEqual([name, index]);
      await own.query('delete from holds where name = :name', { replacements: { name } });
    }
    const last = start();
    expect(await new Promise((resolve) => last.once('exit', resolve))).toBe(0);
    expect(await migrateSchema(own)).toEqual([]);
    await own.query('drop table holds');
    await migrateSchema(own, 'down');
  });
});

it('has a column for every field of every kind of record, of its type, and no others', async () => {
  const types: Readonly<Record<string, string>> = {
    text: 'text',
    integer: 'integer',
    bigint: 'bigint',
    double: 'double precision',
    boolean: 'boolean',
    uuid: 'uuid',
    json: 'jsonb',
  };
  const snake = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);
  for (const kind of RECORD_KINDS) {
    const columns = await db().query<{ name: string; type: string; nullable: string }>(
      "select column_name as name, data_type as type, is_nullable as nullable from information_schema.columns where table_schema = 'public' and table_name = :table and is_generated = 'NEVER' and column_name not in ('session_id', 'id')",
      { replacements: { table: KINDS[kind].table }, type: QueryTypes.SELECT },
    );
    const wanted = Object.entries<Field<unknown>>(KINDS[kind].fields).map(([name, { column, schema }]) => ({
      name: snake(name),
      type: types[column],
      nullable: schema.spec.nullable ? 'YES' : 'NO',
    }));
    const sorted = <T extends { readonly name: string }>(list: readonly T[]): T[] =>
      [...list].sort((a, b) => (a.name < b.name ? -1 : 1));
    // What is said of the song lies in the session's own row, beside what is the server's.
    const own = columns.filter((c) => kind !== 'song' || wanted.some((w) => w.name === c.name));
    expect([kind, sorted(own)]).toEqual([kind, sorted(wanted)]);
  }
});

/** Runs `work` on a database of its own in the cluster under test. */
async function withDatabase(
  name: string,
  work: (url: string, own: Sequelize) => Promise<void>,
): Promise<void> {
  const database = `fernmoss_${name}_${process.pid}`;
  const url = await makeDatabase(database);
  const own = new Sequelize(url, { dialect: 'postgres', logging: false });
  try {
    await work(url, own);
  } finally {
    await own.close();
    await asAdministrator(`drop database ${database} with (force)`);
  }
}

it('the application’s role owns its database and nothing more', async () => {
  const rows = async (sql: string) => db().query<Record<string, unknown>>(sql, { type: QueryTypes.SELECT });
  expect(
    await rows(
      'select rolsuper, rolcreatedb, rolcreaterole, rolreplication, rolbypassrls from pg_roles where rolname = current_user',
    ),
  ).toEqual([
    {
      rolsuper: false,
      rolcreatedb: false,
      rolcreaterole: false,
      rolreplication: false,
      rolbypassrls: false,
    },
  ]);
  const open = await rows(
    `select datname, pg_get_userbyid(datdba) = current_user as own from pg_database where has_database_privilege(datname, 'connect') and datallowconn`,
  );
  expect(open).toContainEqual({
    datname: new URL(process.env.FERNMOSS_DATABASE_URL ?? '').pathname.slice(1),
    own: true,
  });
  // Other tests make some that are its own as well.
  expect(open).toEqual(open.map(({ datname }) => ({ datname, own: true })));
  for (const forbidden of [
    'create database another',
    'create role another',
    "copy (select 1) to '/tmp/fernmoss-written'",
    "select pg_read_file('/etc/passwd')",
    'alter system set log_min_messages = debug1',
  ])
    await expect(db().query(forbidden)).rejects.toThrow(/permission denied|must be/);
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

it('a log of before there were clips is given one for every lane that it puts in, and so are its snapshots', async () => {
  const id = await newSession('Before clips');
  for (const name of ['Kick', 'Snare']) await upload(id, `${name}.wav`, await wavBytes([tone(90, 0.2)]));
  const { session } = await settled(id);
  const kick = tracksInOrder(session)[0] as Track;
  await edit(id, 'Take out', [{ kind: 'track.remove', id: kick.id }]);
  const now = await loadSession(id);
  if (!now) throw new Error('no session');
  await SnapshotModel.create({ sessionId: id, revision: 1, records: recordsOf(now.session) });
  const written = async (transaction?: Transaction): Promise<unknown> => ({
    log: (await EditModel.findAll({ where: { sessionId: id }, order: ['revision'], transaction })).map(
      // A clip goes with its lane: that it does was not said.
      (e) => [e.edits, (e.inverse as Edit[]).filter((i) => i.kind !== 'remove' || i.of !== 'clip')],
    ),
    snapshots: (await SnapshotModel.findAll({ where: { sessionId: id }, transaction })).map((s) => s.records),
    clips: await db().query('select * from clips where session_id = :id order by id', {
      replacements: { id },
      type: QueryTypes.SELECT,
      transaction,
    }),
  });
  const before = await written();
  expect(JSON.stringify(before)).toContain(`clip-lane-${kick.id}`);
  await expect(
    db().transaction(async (transaction) => {
      const q = new SchemaWriter(db().getQueryInterface(), transaction);
      // As they were written before.
      for (const column of ['edits', 'inverse'])
        await q.run(
          `update edits set ${column} = (select coalesce(jsonb_agg(e order by n), '[]') from jsonb_array_elements(${column}) with ordinality as x (e, n) where e ->> 'of' is distinct from 'clip') where session_id = :id`,
          { id },
        );
      await q.run("update snapshots set records = records - 'clip' where session_id = :id", { id });
      // What other tests left in this database may be cut.
      await q.run(
        'update clips set from_frames = null, to_frames = null, slip_frames = 0, gain_db = 0, fade_in_frames = 0, fade_out_frames = 0, off = false where session_id <> :id',
        { id },
      );
      await dropClips(q);
      await makeClips(q);
      expect(await written(transaction)).toEqual(before);
      throw new Error('rolled back');
    }),
  ).rejects.toThrow('rolled back');
  // Taken back, the track sounds again.
  await call(`/api/sessions/${id}/undo`, 'POST');
  expect(isUncut((await viewOf(id)).session.nodes[kick.id] as Track)).toBe(true);
});
