import type { SchemaWriter } from './schema-writer';

/** The clip of a lane that sounds from end to end, made of its id; ids hold 64 characters. */
const WHOLE_CLIP = (laneId: string): string =>
  `jsonb_build_object('id', case when length(${laneId}) <= 59 then 'clip-' || ${laneId} else 'clip-' || md5(${laneId}) end, 'laneId', ${laneId}, 'fromFrames', null, 'toFrames', null, 'slipFrames', 0, 'gainDb', 0, 'fadeInFrames', 0, 'fadeInShape', 'equal-gain', 'fadeOutFrames', 0, 'fadeOutShape', 'equal-gain', 'off', false)`;

/** Edits in which each lane that is put in is followed by its clip: until now a lane sounded by itself. */
const WITH_CLIPS = (column: string): string =>
  `(select jsonb_agg(said.edit order by at, said.n) from jsonb_array_elements(${column}) with ordinality as e (edit, at), lateral (values (1, e.edit), (2, case when e.edit ->> 'kind' = 'put' and e.edit ->> 'of' = 'lane' then jsonb_build_object('kind', 'put', 'of', 'clip', 'record', ${WHOLE_CLIP("(e.edit -> 'record' ->> 'id')")}) end)) as said (n, edit) where said.edit is not null)`;
const PUTS_LANES = '[{"kind":"put","of":"lane"}]';

/** Several lanes a track, and clips that say what of them sounds. Each lane gets one, in the log and its snapshots too, so that going back finds them. */
export async function makeClips(q: SchemaWriter): Promise<void> {
  await q.run(
    'alter table lanes add column take_number integer not null default 1 check (take_number between 1 and 9999)',
  );
  await q.run('alter table lanes alter column take_number drop default');
  await q.run(
    `create table clips (session_id uuid not null references sessions (id) on delete cascade, id text not null, lane_id text not null, from_frames bigint, to_frames bigint, slip_frames bigint not null, gain_db double precision not null, fade_in_frames integer not null check (fade_in_frames >= 0), fade_in_shape text not null check (fade_in_shape in ('equal-gain','equal-power')), fade_out_frames integer not null check (fade_out_frames >= 0), fade_out_shape text not null check (fade_out_shape in ('equal-gain','equal-power')), off boolean not null, primary key (session_id, id), foreign key (session_id, lane_id) references lanes (session_id, id) deferrable initially deferred, check (to_frames > from_frames))`,
  );
  await q.run('create index on clips (session_id, lane_id)');
  await q.run(
    `insert into clips select l.session_id, c ->> 'id', l.id, null, null, 0, 0, 0, 'equal-gain', 0, 'equal-gain', false from lanes l, lateral (select ${WHOLE_CLIP('l.id')}) as w (c)`,
  );
  for (const column of ['edits', 'inverse'])
    await q.run(
      `update edits set ${column} = ${WITH_CLIPS(column)} where ${column} @> '${PUTS_LANES}'::jsonb`,
    );
  await q.run(
    `update snapshots set records = jsonb_set(records, '{clip}', coalesce((select jsonb_object_agg(c ->> 'id', c) from jsonb_object_keys(records -> 'lane') as k (id), lateral (select ${WHOLE_CLIP('k.id')}) as w (c)), '{}'))`,
  );
}

/** Back to lanes that sound by themselves. Throws where something is cut: that would be lost. */
export async function dropClips(q: SchemaWriter): Promise<void> {
  const [cut] = await q.select<{ count: string }>(
    'select count(*) as count from clips where from_frames is not null or to_frames is not null or slip_frames <> 0 or gain_db <> 0 or fade_in_frames > 0 or fade_out_frames > 0 or off',
  );
  if (Number(cut?.count) > 0)
    throw new Error('sessions hold recordings that are cut; restore a back-up instead');
  await q.run('drop table clips');
  await q.run('alter table lanes drop column take_number');
}
