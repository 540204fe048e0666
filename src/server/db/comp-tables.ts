import type { SchemaWriter } from './schema-writer';

/** What is said of takes, and the ways in which tracks were put together from them. */
export async function makeComps(q: SchemaWriter): Promise<void> {
  await q.run(
    `alter table lanes add column take_name text, add column take_rating text check (take_rating in ('keep','maybe','no')), add column take_note text not null default '', add column take_aside boolean not null default false`,
  );
  await q.run('alter table lanes alter column take_note drop default, alter column take_aside drop default');
  await q.run('alter table tracks add column comp_id text');
  await q.run(
    'create table comps (session_id uuid not null references sessions (id) on delete cascade, id text not null, track_id text not null, name text not null, clips jsonb not null, primary key (session_id, id), foreign key (session_id, track_id) references tracks (session_id, id) deferrable initially deferred)',
  );
  await q.run('create index on comps (session_id, track_id)');
}

/** Back to takes of which nothing is said. Throws where something was: that would be lost. */
export async function dropComps(q: SchemaWriter): Promise<void> {
  const [said] = await q.select<{ count: string }>(
    `select (select count(*) from comps) + (select count(*) from lanes where take_name is not null or take_rating is not null or take_note <> '' or take_aside) as count`,
  );
  if (Number(said?.count) > 0)
    throw new Error('takes are rated, named or put together; restore a back-up instead');
  await q.run('drop table comps');
  await q.run('alter table tracks drop column comp_id');
  await q.run(
    'alter table lanes drop column take_name, drop column take_rating, drop column take_note, drop column take_aside',
  );
}
