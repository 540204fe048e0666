import type { SchemaWriter } from './schema-writer';

/** Tables of before, and what they are called until `carryOver` has read them. */
const FORMER = ['tracks', 'folders', 'buses', 'sends', 'track_groups', 'markers', 'tempo_maps'] as const;
/** The same of tables that have no successor. */
const ENDING = ['tempo_points', 'meters'] as const;

const OF_SESSION = 'session_id uuid not null references sessions (id) on delete cascade, id text not null';
const KEY = 'primary key (session_id, id)';
/** A column that names a record of the session: looked at when the transaction ends, so that edits need no order. */
const refers = (column: string, table: string): string =>
  `foreign key (session_id, ${column}) references ${table} (session_id, id) deferrable initially deferred`;
/** The same where a word stands for no bus. */
const bus = (column: string): string =>
  `${column} text, ${column.replace('_id', '_ref')} text generated always as (nullif(${column}, 'nowhere')) stored`;

const TABLES: readonly string[] = [
  `create table folders (${OF_SESSION}, parent_id text, order_key text not null, name text not null, color text, bus_id text, ${KEY}, ${refers('parent_id', 'folders')}, check (parent_id <> id))`,
  `create table buses (${OF_SESSION}, order_key text not null, name text not null, color text, kind text not null check (kind in ('sum','return')), ${bus('output_bus_id')}, by_hand jsonb not null, ${KEY}, ${refers('output_bus_ref', 'buses')}, check (id <> 'nowhere'))`,
  `create table tracks (${OF_SESSION}, parent_id text, order_key text not null, name text not null, family text not null, part text, role text, position text, side text, number integer check (number >= 0), color text, ${bus('bus_id')}, gain_db double precision not null, pan double precision not null check (pan between -1 and 1), muted boolean not null, confidence double precision not null check (confidence between 0 and 1), evidence jsonb not null, by_hand jsonb not null, ${KEY}, ${refers('parent_id', 'folders')}, ${refers('bus_ref', 'buses')})`,
  `create table lanes (${OF_SESSION}, track_id text not null, recording_id uuid not null references recordings (id) deferrable initially deferred, received_name text not null, start_frames bigint not null, inverted boolean not null, mono_from text check (mono_from in ('left','right')), keeps_samples boolean not null, tied_to text check (tied_to in ('bars','time')), ${KEY}, ${refers('track_id', 'tracks')})`,
  `create table sends (${OF_SESSION}, track_id text, source_bus_id text, order_key text not null, bus_id text not null, gain_db double precision not null, pan double precision check (pan between -1 and 1), before boolean not null, ${KEY}, ${refers('track_id', 'tracks')}, ${refers('source_bus_id', 'buses')}, ${refers('bus_id', 'buses')}, check (num_nonnulls(track_id, source_bus_id) = 1), unique (session_id, track_id, bus_id) deferrable initially deferred, unique (session_id, source_bus_id, bus_id) deferrable initially deferred)`,
  `create table track_groups (${OF_SESSION}, order_key text not null, name text not null, track_ids jsonb not null, "on" boolean not null, gain_db double precision not null, by_hand boolean not null, ${KEY})`,
  `create table markers (${OF_SESSION}, name text not null, seconds double precision not null, ${KEY})`,
  `create table delivery_words (${OF_SESSION}, order_key text not null, text text not null, family text not null, part text, ${KEY}, unique (session_id, text) deferrable initially deferred)`,
  `create table tempo_maps (${OF_SESSION}, order_key text not null, name text, content jsonb not null, in_force boolean not null, played boolean not null, ${KEY}, exclude using btree (session_id with =) where (in_force) deferrable initially deferred)`,
];

/** Columns by which others are looked for: without them a session deleted reads whole tables. */
const INDEXES: readonly (readonly [table: string, columns: string])[] = [
  ['folders', 'session_id, parent_id'],
  ['folders', 'session_id, bus_id'],
  ['buses', 'session_id, output_bus_ref'],
  ['tracks', 'session_id, parent_id'],
  ['tracks', 'session_id, bus_ref'],
  ['lanes', 'session_id, track_id'],
  ['lanes', 'recording_id'],
  ['sends', 'session_id, bus_id'],
];

/** A table for each kind of record. What the former ones hold waits beside them for `carryOver`. */
export async function makeRecordTables(q: SchemaWriter): Promise<void> {
  for (const table of FORMER) await q.run(`alter table ${table} rename to former_${table}`);
  for (const sql of TABLES) await q.run(sql);
  // A folder's sum was not looked at by the database; a folder may name none that is not there.
  await q.run(`alter table folders add ${refers('bus_id', 'buses')}`);
  for (const [table, columns] of INDEXES) await q.run(`create index on ${table} (${columns})`);
  await q.run(
    'create table former_sessions as select id, name, artist, notes, sample_rate_hz, timekeepers, cut_bars, words, kept_maps, style_id, style_version, conform from sessions',
  );
  await q.run('alter table former_sessions add primary key (id)');
  await q.run(
    'alter table sessions drop column words, drop column kept_maps, drop column style_id, drop column style_version',
  );
  await q.run(
    `alter table sessions add column style jsonb, add column style_id uuid generated always as ((style ->> 'id')::uuid) stored, add column style_version integer generated always as ((style ->> 'version')::integer) stored`,
  );
  await q.run(
    'alter table sessions add constraint sessions_style foreign key (style_id, style_version) references style_versions (style_id, version)',
  );
  await q.run('create index sessions_style_id on sessions (style_id)');
}

/** Back to the former tables. Sessions cannot go with them: throws where there are some. */
export async function dropRecordTables(q: SchemaWriter): Promise<void> {
  const [count] = await q.select<{ sessions: string }>('select count(*) as sessions from sessions');
  if (Number(count?.sessions) > 0)
    throw new Error('sessions that hold records do not fit the former tables; restore a back-up instead');
  await q.run(
    'drop table tempo_maps, delivery_words, markers, track_groups, sends, lanes, tracks, buses, folders',
  );
  for (const sql of FORMER_TABLES) await q.run(sql);
  await q.run('drop table if exists former_sessions');
  await q.run(
    'alter table sessions drop constraint sessions_style, drop column style_id, drop column style_version, drop column style',
  );
  await q.run(
    "alter table sessions add column words jsonb not null default '[]', add column kept_maps jsonb not null default '[]', add column style_id uuid, add column style_version integer, add constraint sessions_style foreign key (style_id, style_version) references style_versions (style_id, version)",
  );
  await q.run('create index sessions_style_id on sessions (style_id)');
}

const FORMER_OF_SESSION = 'session_id uuid not null references sessions (id) on delete cascade';

/** The former tables as the steps before this one left them. */
const FORMER_TABLES: readonly string[] = [
  ...[...FORMER, ...ENDING].map(
    (t) => `drop table if exists ${(ENDING as readonly string[]).includes(t) ? t : `former_${t}`}`,
  ),
  `create table buses (${FORMER_OF_SESSION}, id varchar(64) not null, position integer not null, name text not null, color text, output_bus_id varchar(64), kind text not null default 'sum' constraint buses_kind check (kind in ('sum','return')), by_hand jsonb not null default '[]', primary key (session_id, id))`,
  `create table folders (${FORMER_OF_SESSION}, id varchar(64) not null, parent_id varchar(64) not null, position integer not null, name text not null, color text, bus_id varchar(64), primary key (session_id, id))`,
  `create table tracks (${FORMER_OF_SESSION}, id varchar(64) not null, recording_id uuid not null references recordings (id) on delete cascade, parent_id varchar(64) not null, position integer not null, received_name text not null, start_frames bigint not null, name text not null, family text not null, part text, role text, place text, side text, number integer, color text, bus_id varchar(64), gain_db double precision not null, pan double precision not null constraint tracks_pan check (pan between -1 and 1), muted boolean not null, confidence double precision not null, evidence jsonb not null, by_hand jsonb not null, inverted boolean not null default false, mono_from text constraint tracks_mono_from check (mono_from in ('left','right')), keeps_samples boolean not null default false, tied_to text constraint tracks_tied_to check (tied_to in ('bars','time')), primary key (session_id, id))`,
  'create index tracks_recording_id on tracks (recording_id)',
  `create table sends (${FORMER_OF_SESSION}, from_id varchar(64) not null, bus_id varchar(64) not null, position integer not null, gain_db double precision not null, pan double precision constraint sends_pan check (pan between -1 and 1), before_level boolean not null, primary key (session_id, from_id, bus_id))`,
  `create table track_groups (${FORMER_OF_SESSION}, id varchar(64) not null, position integer not null, name text not null, track_ids jsonb not null, is_on boolean not null, gain_db double precision not null, by_hand boolean not null, primary key (session_id, id))`,
  `create table markers (${FORMER_OF_SESSION}, id varchar(64) not null, name text not null, seconds double precision not null, primary key (session_id, id))`,
  `create table tempo_maps (${FORMER_OF_SESSION}, facts jsonb, primary key (session_id))`,
  `create table tempo_points (${FORMER_OF_SESSION}, index integer not null, quarters double precision not null, seconds double precision not null, ramp double precision check (ramp between 0.05 and 20), primary key (session_id, index))`,
  `create table meters (${FORMER_OF_SESSION}, bar integer not null, numerator integer not null, denominator integer not null, groups jsonb, number integer, constraint meters_sane check (numerator between 1 and 64 and denominator in (1,2,4,8,16,32)), primary key (session_id, bar))`,
];

/** All former tables, once nothing in them is needed any more. */
export const FORMER_TABLE_NAMES: readonly string[] = [
  ...FORMER.map((t) => `former_${t}`),
  ...ENDING,
  'former_sessions',
];
