import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { Sequelize } from 'sequelize';
import {
  isUncut,
  difference,
  emptySession,
  recordsOf,
  type SessionState,
  stateAt,
  type Edit,
} from '@/core/session';
import { applyEdits, backTo } from '@/core/session';
import { carryOver } from '@/server/db/carry-over/carry-over';
import { migrateSchema } from '@/server/db/migrate';
import { closeDb, db, EditModel, loadSession } from '@/server/db';
import { asAdministrator, makeDatabase } from '../support/databases';

/** What the last build before there were records said of its sessions: made with it, of its two demo sessions and edits of every kind. */
interface Before {
  readonly present: { readonly revision: number; readonly session: SessionState };
  /** As received, as going back there showed it. */
  readonly received: SessionState;
  readonly checkpoints: Readonly<
    Record<string, { readonly revision: number; readonly session: SessionState }>
  >;
}
const fixture = (name: string): string =>
  gunzipSync(readFileSync(`tests/fixtures/before-records/${name}.gz`)).toString('utf8');
const BEFORE = JSON.parse(fixture('sessions.json')) as Readonly<Record<string, Before>>;

/** Order keys came with the records, and sends of one track are the same in any order. */
function shown({ key = '', ...s }: SessionState): unknown {
  // Nobody had said a key then.
  expect(key).toBe('');
  const nodes = Object.fromEntries(Object.entries(s.nodes).map(([id, node]) => [id, asOneRecording(node)]));
  const buses = Object.fromEntries(Object.entries(s.buses).map(([id, bus]) => [id, withoutLevels(bus)]));
  return JSON.parse(JSON.stringify({ ...s, orderKeys: null, nodes, buses })) as unknown;
}

/** Buses had no level, pan or mute of their own. */
function withoutLevels(bus: Partial<SessionState['buses'][string]>): unknown {
  const { gainDb = 0, pan = 0, muted = false, ...former } = bus;
  expect([gainDb, pan, muted]).toEqual([0, 0, false]);
  return former;
}

/** Takes and clips came with the records too: a track was one recording from end to end. */
function asOneRecording(node: SessionState['nodes'][string]): unknown {
  if (node.kind !== 'track' || !('clips' in node)) return node;
  const { laneId, otherLanes, clips, takeNumber, comps, compId, ...said } = node;
  expect([otherLanes, takeNumber, isUncut({ laneId, clips })]).toEqual([[], 1, true]);
  const { takeName, takeRating, takeNote, takeAside, ...track } = said;
  expect([comps, compId, takeName, takeRating, takeNote, takeAside]).toEqual([
    [],
    null,
    null,
    null,
    '',
    false,
  ]);
  return track;
}

const former = process.env.FERNMOSS_DATABASE_URL;
let name: string;

beforeAll(async () => {
  name = `fernmoss_carried_${process.pid}`;
  const url = await makeDatabase(name);
  const raw = new Sequelize(url, { dialect: 'postgres', logging: false });
  await raw.query(fixture('database.sql'));
  await raw.close();
  await closeDb();
  process.env.FERNMOSS_DATABASE_URL = url;
});
afterAll(async () => {
  await closeDb();
  process.env.FERNMOSS_DATABASE_URL = former;
  await asAdministrator(`drop database ${name} with (force)`);
});

it('takes up after a kill between two sessions, and once', async () => {
  expect((await migrateSchema(db()))[0]).toBe('0016-records');
  await db().query(
    "create function stop() returns trigger language plpgsql as $$ begin if (select count(*) from former_sessions) = 1 then raise exception 'killed'; end if; return old; end $$",
  );
  await db().query(
    'create trigger stop before delete on former_sessions for each row execute function stop()',
  );
  await expect(carryOver(db())).rejects.toThrow('killed');
  await db().query('drop trigger stop on former_sessions');
  expect(await carryOver(db())).toBe(1);
  expect(await carryOver(db())).toBe(0);
  const [left] = await db().query(
    "select to_regclass('former_tracks') as a, to_regclass('tempo_points') as b",
  );
  expect(left).toEqual([{ a: null, b: null }]);
});

describe.each(Object.entries(BEFORE))('session %s', (id, before) => {
  const log = async () =>
    (await EditModel.findAll({ where: { sessionId: id }, order: [['revision', 'ASC']] })).map((e) => ({
      revision: e.revision,
      undoable: e.undoable,
      edits: e.edits as Edit[],
      inverse: e.inverse as Edit[],
      label: e.label,
    }));

  it('is as it was, to the last field', async () => {
    const loaded = await loadSession(id);
    expect(loaded?.revision).toBe(before.present.revision);
    expect(shown(loaded?.session as SessionState)).toEqual(shown(before.present.session));
  });
  it('was at its checkpoints and as received what it was', async () => {
    const lines = await log();
    for (const { revision, session } of Object.values(before.checkpoints))
      expect(shown(stateAt(lines, revision))).toEqual(shown(session));
    const { name: song, artist, notes } = before.present.session;
    expect(shown({ ...stateAt(lines, 0), name: song, artist, notes })).toEqual(shown(before.received));
  });
  it('its log leads to its rows, forward from nothing and back again, line by line', async () => {
    const lines = await log();
    const rows = (await loadSession(id))?.session as SessionState;
    let state = emptySession('');
    for (const { edits, revision } of lines) {
      const done = applyEdits(state, edits);
      expect([revision, done.ok]).toEqual([revision, true]);
      if (done.ok) state = done.session;
    }
    expect(state).toEqual(rows);
    expect(difference(state, rows)).toEqual([]);
    expect(lines.some((l) => l.label === 'Carried over')).toBe(false);
    expect(
      recordsOf(
        backTo(
          rows,
          lines.map((l) => l.inverse),
        ),
      ),
    ).toEqual(recordsOf(emptySession('')));
  });
});
