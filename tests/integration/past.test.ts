import { type Edit, stateAt, tracksInOrder } from '@/core/session';
import { createRandom } from '@/core/units';
import { db, EditModel, loadSession, SnapshotModel } from '@/server/db';
import { applyToSession, pastState } from '@/server/services';
import { randomMove } from '../support/random-edits';
import { tone, wavBytes } from '../support/recordings';
import { call, newSession, settled, upload, viewOf } from '../support/server';

it('any state of the past is what the whole log says, from snapshots on as well; arrivals later are in it', async () => {
  const id = await newSession('Long history');
  for (const name of ['Kick', 'Snare', 'Bass'])
    await upload(id, `${name}.wav`, await wavBytes([tone(90, 0.2)]));
  await settled(id);
  const random = createRandom(77);
  db();
  const wander = async (steps: number): Promise<void> => {
    for (let done = 0; done < steps;) {
      const { session } = (await loadSession(id)) ?? {};
      if (!session) throw new Error('no session');
      const move = randomMove(random, session);
      if (/^(track\.(add|replace|remove)|style|conform|session\.rate)/.test(move.kind)) continue;
      const made = await applyToSession(id, [move], { label: `Step ${done}`, author: 'person' }).catch(
        () => null,
      );
      if (made !== null) done++;
    }
  };
  await wander(230);
  await upload(id, 'Late.wav', await wavBytes([tone(300, 0.2)]));
  await settled(id);
  await wander(190);
  expect((await SnapshotModel.findAll({ where: { sessionId: id } })).map((s) => s.revision).sort()).toEqual([
    200, 400,
  ]);
  const log = (await EditModel.findAll({ where: { sessionId: id }, order: [['revision', 'ASC']] })).map(
    (e) => ({
      revision: e.revision,
      undoable: e.undoable,
      edits: e.edits as Edit[],
    }),
  );
  for (const revision of [0, 1, 60, 199, 200, 201, 300, 399, 400, 401, log.length])
    expect([revision, await pastState(id, revision)]).toEqual([revision, stateAt(log, revision)]);
  expect(await pastState(id, log.length)).toEqual((await loadSession(id))?.session);
  // Through the page's way: back to before the late one came, which stays.
  const { revision } = await viewOf(id);
  const back = await call(`/api/sessions/${id}/return`, 'POST', { revision: 210, baseRevision: revision });
  expect(back.status).toBe(200);
  const { session } = await viewOf(id);
  expect(tracksInOrder(session).map((t) => t.receivedName)).toContain('Late.wav');
  expect(session.markers).toEqual(stateAt(log, 210).markers);
}, 300_000);
