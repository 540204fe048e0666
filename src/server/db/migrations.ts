import { DataTypes, literal } from 'sequelize';
import { DEFAULT_STYLE } from '@/core/style';
import { dropClips, makeClips } from './clip-tables';
import { dropComps, makeComps } from './comp-tables';
import { dropRecordTables, makeRecordTables } from './records-tables';
import type { Columns, SchemaWriter } from './schema-writer';

/** One step of the schema, forward and back. */
export interface Migration {
  readonly name: string;
  readonly up: (q: SchemaWriter) => Promise<void>;
  readonly down: (q: SchemaWriter) => Promise<void>;
}

/** The style a new house begins with. */
const FIRST_STYLE_ID = '6b3f4e1a-5d0c-4c8e-9a57-2f1d8c0b7e01';

const id = { type: DataTypes.UUID, primaryKey: true };
const session = {
  type: DataTypes.UUID,
  allowNull: false,
  references: { model: 'sessions', key: 'id' },
  onDelete: 'CASCADE',
};
const text = { type: DataTypes.TEXT, allowNull: false };
const maybeText = { type: DataTypes.TEXT };
const integer = { type: DataTypes.INTEGER, allowNull: false };
const long = { type: DataTypes.BIGINT };
const real = { type: DataTypes.DOUBLE, allowNull: false };
const json = { type: DataTypes.JSONB };
const now = { type: DataTypes.DATE, allowNull: false, defaultValue: literal('now()') };

const TABLES: readonly (readonly [string, Columns])[] = [
  [
    'sessions',
    {
      id,
      name: text,
      artist: text,
      notes: text,
      sample_rate_hz: { type: DataTypes.INTEGER },
      revision: { ...integer, defaultValue: 0 },
      timekeepers: json,
      created_at: now,
      updated_at: now,
    },
  ],
  [
    'blobs',
    {
      sha256: { type: DataTypes.STRING(64), primaryKey: true },
      size_bytes: { ...long, allowNull: false },
      created_at: now,
    },
  ],
  [
    'recordings',
    {
      id,
      session_id: session,
      received_name: text,
      size_bytes: { ...long, allowNull: false },
      state: text,
      fault: json,
      sha256: { type: DataTypes.STRING(64), references: { model: 'blobs', key: 'sha256' } },
      sample_rate_hz: { type: DataTypes.INTEGER },
      channels: { type: DataTypes.INTEGER },
      encoding: maybeText,
      bit_depth: { type: DataTypes.INTEGER },
      length_frames: long,
      header: json,
      facts: json,
      true_peak_dbtp: { type: DataTypes.DOUBLE },
      peaks_sha256: { type: DataTypes.STRING(64), references: { model: 'blobs', key: 'sha256' } },
      onsets_sha256: { type: DataTypes.STRING(64), references: { model: 'blobs', key: 'sha256' } },
      converted_sha256: { type: DataTypes.STRING(64), references: { model: 'blobs', key: 'sha256' } },
      converted_rate_hz: { type: DataTypes.INTEGER },
      created_at: now,
    },
  ],
  [
    'buses',
    {
      session_id: { ...session, primaryKey: true },
      id: { type: DataTypes.STRING(64), primaryKey: true },
      position: integer,
      name: text,
      color: maybeText,
      output_bus_id: { type: DataTypes.STRING(64) },
    },
  ],
  [
    'folders',
    {
      session_id: { ...session, primaryKey: true },
      id: { type: DataTypes.STRING(64), primaryKey: true },
      parent_id: { type: DataTypes.STRING(64), allowNull: false },
      position: integer,
      name: text,
      color: maybeText,
      bus_id: { type: DataTypes.STRING(64) },
    },
  ],
  [
    'tracks',
    {
      session_id: { ...session, primaryKey: true },
      id: { type: DataTypes.STRING(64), primaryKey: true },
      recording_id: {
        type: DataTypes.UUID,
        allowNull: false,
        references: { model: 'recordings', key: 'id' },
        onDelete: 'CASCADE',
      },
      parent_id: { type: DataTypes.STRING(64), allowNull: false },
      position: integer,
      received_name: text,
      start_frames: { ...long, allowNull: false },
      name: text,
      family: text,
      part: maybeText,
      role: maybeText,
      place: maybeText,
      side: maybeText,
      number: { type: DataTypes.INTEGER },
      color: maybeText,
      bus_id: { type: DataTypes.STRING(64) },
      gain_db: real,
      pan: real,
      muted: { type: DataTypes.BOOLEAN, allowNull: false },
      confidence: real,
      evidence: { ...json, allowNull: false },
      by_hand: { ...json, allowNull: false },
    },
  ],
  ['tempo_maps', { session_id: { ...session, primaryKey: true }, facts: json }],
  [
    'tempo_points',
    {
      session_id: { ...session, primaryKey: true },
      index: { ...integer, primaryKey: true },
      quarters: real,
      seconds: real,
    },
  ],
  [
    'meters',
    {
      session_id: { ...session, primaryKey: true },
      bar: { ...integer, primaryKey: true },
      numerator: integer,
      denominator: integer,
    },
  ],
  [
    'edits',
    {
      session_id: { ...session, primaryKey: true },
      revision: { ...integer, primaryKey: true },
      action: text,
      of_revision: { type: DataTypes.INTEGER },
      undoable: { type: DataTypes.BOOLEAN, allowNull: false },
      label: text,
      author: text,
      edits: { ...json, allowNull: false },
      inverse: { ...json, allowNull: false },
      made_at: now,
    },
  ],
  [
    'jobs',
    {
      id,
      kind: text,
      session_id: { ...session, allowNull: true },
      subject: text,
      payload: { ...json, allowNull: false },
      state: text,
      progress: { ...real, defaultValue: 0 },
      cancel_requested: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      result: json,
      fault: json,
      created_at: now,
      started_at: { type: DataTypes.DATE },
      finished_at: { type: DataTypes.DATE },
    },
  ],
  [
    'handovers',
    {
      id,
      session_id: session,
      number: integer,
      state: text,
      job_id: { type: DataTypes.UUID },
      folder_name: text,
      size_bytes: long,
      revision: integer,
      report: json,
      fault: json,
      created_at: now,
    },
  ],
];

const CHECKS: readonly (readonly [table: string, name: string, sql: string])[] = [
  ['recordings', 'recordings_state', "state in ('waiting','arriving','ready','failed')"],
  ['jobs', 'jobs_state', "state in ('queued','running','done','failed','cancelled')"],
  ['handovers', 'handovers_state', "state in ('building','done','failed')"],
  ['edits', 'edits_action', "action in ('do','undo','redo')"],
  ['edits', 'edits_revision', 'revision > 0'],
  ['tracks', 'tracks_pan', 'pan between -1 and 1'],
  ['meters', 'meters_sane', 'numerator between 1 and 64 and denominator in (1,2,4,8,16,32)'],
];

/** Sequelize marks the column objects it is given: each table gets its own. */
const fresh = (columns: (typeof TABLES)[number][1]): (typeof TABLES)[number][1] =>
  Object.fromEntries(
    Object.entries(columns).map(([name, column]) => [name, { ...(column as object) }]),
  ) as (typeof TABLES)[number][1];

/** Foreign keys that step 0012 gives an index. */
const REFERENCES = [
  ['recordings', 'peaks_sha256'],
  ['recordings', 'onsets_sha256'],
  ['recordings', 'sketch_sha256'],
  ['recordings', 'converted_sha256'],
  ['tracks', 'recording_id'],
] as const;

/** Tables of which step 0017 tells the changes. */
const TOLD = ['sessions', 'recordings', 'jobs', 'handovers'] as const;

/** All steps in order. Never change one that has been released; add another. */
export const MIGRATIONS: readonly Migration[] = [
  {
    name: '0001-first-tables',
    async up(q) {
      for (const [name, columns] of TABLES) await q.createTable(name, fresh(columns));
      for (const [table, name, sql] of CHECKS)
        await q.run(`alter table ${table} add constraint ${name} check (${sql})`);
      await q.addIndex('recordings', ['session_id']);
      await q.addIndex('recordings', ['sha256']);
      await q.addIndex('jobs', ['session_id', 'state']);
      await q.addIndex('handovers', ['session_id', 'number'], { unique: true });
    },
    async down(q) {
      for (const [name] of [...TABLES].reverse()) await q.dropTable(name);
    },
  },
  {
    name: '0002-conform',
    async up(q) {
      // Sequelize's own names the schema `public`, whatever the connection's is.
      await q.run('alter table sessions add column conform jsonb');
      await q.createTable(
        'conform_files',
        fresh({
          session_id: { ...session, primaryKey: true },
          key: { type: DataTypes.STRING(64), primaryKey: true },
          sha256: {
            type: DataTypes.STRING(64),
            allowNull: false,
            references: { model: 'blobs', key: 'sha256' },
          },
          data_offset: integer,
          length_frames: { ...long, allowNull: false },
          channels: integer,
          ratio_min: real,
          ratio_max: real,
          excerpt: { type: DataTypes.BOOLEAN, allowNull: false },
          created_at: now,
        }),
      );
      await q.addIndex('conform_files', ['sha256']);
    },
    async down(q) {
      await q.dropTable('conform_files');
      await q.run('alter table sessions drop column conform');
    },
  },
  {
    name: '0003-checkpoints-and-copies',
    async up(q) {
      await q.createTable(
        'checkpoints',
        fresh({ id, session_id: session, name: text, revision: integer, created_at: now }),
      );
      await q.addIndex('checkpoints', ['session_id', 'revision']);
      await q.run("alter table handovers add column copies jsonb not null default '[]'");
      await q.run('alter table conform_files add column match_db double precision not null default 0');
      await q.run('alter table handovers drop constraint handovers_state');
      await q.run(
        "alter table handovers add constraint handovers_state check (state in ('building','done','failed','removed'))",
      );
    },
    async down(q) {
      await q.run("delete from handovers where state = 'removed'");
      await q.run('alter table handovers drop constraint handovers_state');
      await q.run(
        "alter table handovers add constraint handovers_state check (state in ('building','done','failed'))",
      );
      await q.run('alter table handovers drop column copies');
      await q.run('alter table conform_files drop column match_db');
      await q.dropTable('checkpoints');
    },
  },
  {
    name: '0004-containers',
    async up(q) {
      await q.run(
        `alter table recordings add column original_sha256 varchar(64) references blobs (sha256), add column container text, add column codec text, add column lossy boolean not null default false, add column channel_index integer, add column metadata jsonb, add column source_path text, add column notes jsonb, add column converted_kept boolean not null default false`,
      );
      await q.createTable(
        'in_place_files',
        fresh({
          sha256: {
            type: DataTypes.STRING(64),
            primaryKey: true,
            references: { model: 'blobs', key: 'sha256' },
            onDelete: 'CASCADE',
          },
          path: text,
          size_bytes: { ...long, allowNull: false },
          modified_ms: { ...long, allowNull: false },
        }),
      );
      await q.run("alter table sessions add column project text not null default ''");
      await q.run(
        "alter table tracks add column inverted boolean not null default false, add column mono_from text constraint tracks_mono_from check (mono_from in ('left','right')), add column keeps_samples boolean not null default false, add column tied_to text constraint tracks_tied_to check (tied_to in ('bars','time'))",
      );
      await q.createTable(
        'relations',
        fresh({
          session_id: { ...session, primaryKey: true },
          kind: { type: DataTypes.STRING(16), primaryKey: true },
          a: { type: DataTypes.STRING(64), primaryKey: true },
          b: { type: DataTypes.STRING(64), primaryKey: true },
          facts: json,
        }),
      );
      await q.createTable(
        'dismissals',
        fresh({
          session_id: { ...session, primaryKey: true },
          key: { type: DataTypes.STRING(200), primaryKey: true },
          note: text,
          made_at: now,
        }),
      );
      await q.run('create index recordings_original_sha256 on recordings (original_sha256)');
      await q.run("update recordings set container = 'wav' where sha256 is not null");
      // What is odd about a file was named after its container.
      for (const column of ['header', 'fault'])
        await q.run(
          `update recordings set ${column} = replace(replace(${column}::text, '"wav.not_wav"', '"sound.unknown"'), '"wav.', '"sound.')::jsonb where ${column}::text like '%"wav.%'`,
        );
    },
    async down(q) {
      for (const column of ['header', 'fault'])
        await q.run(
          `update recordings set ${column} = replace(replace(${column}::text, '"sound.unknown"', '"wav.not_wav"'), '"sound.', '"wav.')::jsonb where ${column}::text like '%"sound.%'`,
        );
      for (const table of ['dismissals', 'relations', 'in_place_files']) await q.dropTable(table);
      await q.run('alter table sessions drop column project');
      await q.run(
        'alter table tracks drop column inverted, drop column mono_from, drop column keeps_samples, drop column tied_to',
      );
      await q.run(
        'alter table recordings drop column original_sha256, drop column container, drop column codec, drop column lossy, drop column channel_index, drop column metadata, drop column source_path, drop column notes, drop column converted_kept',
      );
    },
  },
  {
    name: '0005-heard-markers-words',
    async up(q) {
      await q.run(
        'alter table recordings add column sketch_sha256 varchar(64) references blobs (sha256), add column heard jsonb',
      );
      await q.run("alter table sessions add column words jsonb not null default '[]'");
      await q.createTable(
        'markers',
        fresh({
          session_id: { ...session, primaryKey: true },
          id: { type: DataTypes.STRING(64), primaryKey: true },
          name: text,
          seconds: real,
        }),
      );
    },
    async down(q) {
      await q.run('alter table sessions drop column words');
      await q.dropTable('markers');
      await q.run('alter table recordings drop column sketch_sha256, drop column heard');
    },
  },
  {
    name: '0006-house-styles',
    async up(q) {
      await q.createTable(
        'styles',
        fresh({
          id,
          name: text,
          is_default: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
          created_at: now,
          removed_at: { type: DataTypes.DATE },
        }),
      );
      await q.createTable(
        'style_versions',
        fresh({
          style_id: {
            type: DataTypes.UUID,
            primaryKey: true,
            references: { model: 'styles', key: 'id' },
            onDelete: 'CASCADE',
          },
          version: { ...integer, primaryKey: true },
          body: { ...json, allowNull: false },
          note: text,
          made_at: now,
        }),
      );
      await q.run('create unique index styles_one_default on styles (is_default) where is_default');
      await q.run('alter table style_versions add constraint style_versions_from_one check (version >= 1)');
      await q.run(
        'alter table sessions add column style_id uuid, add column style_version integer, add constraint sessions_style foreign key (style_id, style_version) references style_versions (style_id, version)',
      );
      await q.run('create index sessions_style_id on sessions (style_id)');
      await q.run('insert into styles (id, name, is_default) values (:id, :name, true)', {
        id: FIRST_STYLE_ID,
        name: DEFAULT_STYLE.name,
      });
      await q.run("insert into style_versions (style_id, version, body, note) values (:id, 1, :body, '')", {
        id: FIRST_STYLE_ID,
        body: JSON.stringify(DEFAULT_STYLE),
      });
    },
    async down(q) {
      await q.run(
        'alter table sessions drop constraint sessions_style, drop column style_id, drop column style_version',
      );
      await q.dropTable('style_versions');
      await q.dropTable('styles');
    },
  },
  {
    name: '0007-sends-groups-pairs',
    async up(q) {
      await q.run(
        "alter table buses add column kind text not null default 'sum', add column by_hand jsonb not null default '[]'",
      );
      await q.run("alter table buses add constraint buses_kind check (kind in ('sum','return'))");
      await q.run('alter table recordings add column made_from jsonb');
      const name = { type: DataTypes.STRING(64), primaryKey: true };
      await q.createTable(
        'sends',
        fresh({
          session_id: { ...session, primaryKey: true },
          from_id: name,
          bus_id: name,
          position: integer,
          gain_db: real,
          pan: { type: DataTypes.DOUBLE },
          before_level: { type: DataTypes.BOOLEAN, allowNull: false },
        }),
      );
      await q.run('alter table sends add constraint sends_pan check (pan between -1 and 1)');
      await q.createTable(
        'track_groups',
        fresh({
          session_id: { ...session, primaryKey: true },
          id: name,
          position: integer,
          name: text,
          track_ids: { ...json, allowNull: false },
          is_on: { type: DataTypes.BOOLEAN, allowNull: false },
          gain_db: real,
          by_hand: { type: DataTypes.BOOLEAN, allowNull: false },
        }),
      );
    },
    async down(q) {
      await q.dropTable('track_groups');
      await q.dropTable('sends');
      await q.run('alter table recordings drop column made_from');
      await q.run('alter table buses drop constraint buses_kind, drop column kind, drop column by_hand');
    },
  },
  {
    name: '0008-meter-groups',
    async up(q) {
      await q.run('alter table meters add column groups jsonb');
      // What was heard before holds no attacks and no harmony: the next detection listens again.
      await q.run('update recordings set onsets_sha256 = null');
    },
    down: (q) => q.run('alter table meters drop column groups'),
  },
  {
    name: '0009-ramps-kept-maps',
    async up(q) {
      await q.run(
        'alter table tempo_points add column ramp double precision check (ramp between 0.05 and 20)',
      );
      await q.run("alter table sessions add column kept_maps jsonb not null default '[]'");
    },
    async down(q) {
      await q.run('alter table tempo_points drop column ramp');
      await q.run('alter table sessions drop column kept_maps');
    },
  },
  {
    name: '0010-bar-numbers',
    up: (q) => q.run('alter table meters add column number integer'),
    down: (q) => q.run('alter table meters drop column number'),
  },
  {
    name: '0011-cut',
    up: (q) => q.run('alter table sessions add column cut_bars integer check (cut_bars between 0 and 16)'),
    down: (q) => q.run('alter table sessions drop column cut_bars'),
  },
  {
    name: '0012-indexes-on-references',
    // Without them every blob freed and every session deleted reads whole tables.
    async up(q) {
      for (const [table, column] of REFERENCES) await q.addIndex(table, [column]);
    },
    async down(q) {
      for (const [table, column] of REFERENCES) await q.run(`drop index ${table}_${column}`);
    },
  },
  {
    name: '0013-job-attempts',
    up: (q) => q.run('alter table jobs add column attempts integer not null default 0'),
    down: (q) => q.run('alter table jobs drop column attempts'),
  },
  {
    name: '0014-file-of-a-channel',
    // A channel of a file has a name of its own; which file it lay in is told to the mixer, too.
    up: (q) => q.run('alter table recordings add column file_name text'),
    down: (q) => q.run('alter table recordings drop column file_name'),
  },
  {
    name: '0015-batches',
    // A batch that is sent again because its answer was lost is not done twice.
    async up(q) {
      await q.run('alter table edits add column batch_id uuid');
      await q.run('create unique index edits_batch on edits (session_id, batch_id)');
    },
    async down(q) {
      await q.run('drop index edits_batch');
      await q.run('alter table edits drop column batch_id');
    },
  },
  { name: '0016-records', up: makeRecordTables, down: dropRecordTables },
  {
    name: '0017-changes-are-told',
    // Who shows a session hears of what changes in it, and need not ask.
    async up(q) {
      await q.run(
        `create function tell_session_changed() returns trigger language plpgsql as
         'declare session uuid; begin
            if tg_table_name = ''sessions'' then session := coalesce(new.id, old.id);
            else session := coalesce(new.session_id, old.session_id); end if;
            if session is not null then perform pg_notify(''session_changed'', session::text); end if;
            return null; end'`,
      );
      for (const table of TOLD)
        await q.run(
          `create trigger ${table}_told after insert or update or delete on ${table} for each row execute function tell_session_changed()`,
        );
    },
    async down(q) {
      for (const table of TOLD) await q.run(`drop trigger ${table}_told on ${table}`);
      await q.run('drop function tell_session_changed()');
    },
  },
  {
    name: '0018-snapshots',
    // States of the past, so that going back to one does not depend on how long the log is.
    up: (q) =>
      q.createTable(
        'snapshots',
        fresh({
          session_id: { ...session, primaryKey: true },
          revision: { ...integer, primaryKey: true },
          records: { ...json, allowNull: false },
        }),
      ),
    down: (q) => q.dropTable('snapshots'),
  },
  {
    name: '0019-workers',
    // Who is at work, so that only what a dead worker held is freed (`jobs/worker-identity.ts`).
    up: (q) =>
      q.run(
        'create table workers (number serial primary key, host text not null, pid integer not null, pool text, started_at timestamptz not null default now())',
      ),
    down: (q) => q.dropTable('workers'),
  },
  { name: '0020-clips', up: makeClips, down: dropClips },
  {
    name: '0021-shelves',
    // A deleted session lies in the waste basket first; what is done with stands in the archive.
    async up(q) {
      await q.run('alter table sessions add column archived_at timestamptz');
      await q.run('alter table sessions add column deleted_at timestamptz');
    },
    async down(q) {
      await q.run('alter table sessions drop column deleted_at');
      await q.run('alter table sessions drop column archived_at');
    },
  },
  {
    name: '0022-key',
    up: (q) => q.run(`alter table sessions add column key text not null default ''`),
    down: (q) => q.run('alter table sessions drop column key'),
  },
  {
    name: '0023-levels',
    // Levels over time, which Tidy works from. Recordings heard before are listened to again once somebody asks.
    async up(q) {
      await q.run('alter table recordings add column levels_sha256 varchar(64) references blobs (sha256)');
      await q.run('create index recordings_levels_sha256 on recordings (levels_sha256)');
    },
    down: (q) => q.run('alter table recordings drop column levels_sha256'),
  },
  {
    name: '0024-bus-levels',
    async up(q) {
      await q.run(
        'alter table buses add column gain_db double precision not null default 0, add column pan double precision not null default 0 check (pan between -1 and 1), add column muted boolean not null default false',
      );
    },
    down: (q) => q.run('alter table buses drop column gain_db, drop column pan, drop column muted'),
  },
  { name: '0025-comps', up: makeComps, down: dropComps },
];
