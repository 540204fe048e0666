import type { SessionListItem } from '@/contracts';
import { isTrack, tracksInOrder } from '@/core/session';
import { db, EditModel, SessionModel } from '@/server/db';
import { emptyOldWaste } from '@/server/services';
import { tone, wavBytes } from '../support/recordings';
import { call, edit, newSession, settled, soundOf, upload, viewOf } from '../support/server';

const listed = async (id: string): Promise<SessionListItem | undefined> =>
  (await call<SessionListItem[]>('/api/sessions')).value.find((s) => s.id === id);
const put = (ids: readonly string[], shelf: string) => call('/api/sessions/shelf', 'POST', { ids, shelf });
const codeOf = (answer: { readonly value: unknown }): string | undefined =>
  (answer.value as { fault?: { code: string } }).fault?.code;

async function filled(name: string): Promise<string> {
  const id = await newSession(name);
  for (const [i, file] of ['Kick.wav', 'Snare.wav', 'Letter.wav'].entries())
    await upload(id, file, i < 2 ? await wavBytes([tone(90 + 40 * i, 0.3)]) : Buffer.from('no sound at all'));
  await settled(id);
  return id;
}

it('what is deleted lies in the waste basket, is not edited there, and comes back as it was', async () => {
  const id = await filled('Neap');
  const before = await viewOf(id);
  const stood = await listed(id);
  // Not for good while it stands on the list.
  expect(codeOf(await call(`/api/sessions/${id}`, 'DELETE'))).toBe('session.not_in_waste');
  expect((await put([id], 'waste')).status).toBe(200);
  expect(await listed(id)).toMatchObject({ shelf: 'waste', deletedAt: expect.any(String) as string });

  const kick = tracksInOrder(before.session)[0];
  const change = [{ kind: 'track.change' as const, id: kick?.id ?? '', fields: { name: 'Boom' } }];
  expect((await edit(id, 'Rename', change)).value.fault?.code).toBe('session.in_waste');
  expect(codeOf(await call(`/api/sessions/${id}/undo`, 'POST'))).toBe('session.in_waste');

  await put([id], 'list');
  expect(await listed(id)).toEqual(stood);
  expect((await viewOf(id)).session).toEqual(before.session);
  expect((await edit(id, 'Rename', change)).value.fault).toBeUndefined();
});

it('moves many or none, and refuses what is no list of sessions', async () => {
  const [a, b] = [await newSession('A'), await newSession('B')];
  const nobody = '00000000-0000-4000-8000-000000000000';
  expect(codeOf(await put([a, nobody], 'archive'))).toBe('session.not_found');
  expect((await listed(a))?.shelf).toBe('list');
  await put([a, b], 'archive');
  expect([(await listed(a))?.shelf, (await listed(b))?.shelf]).toEqual(['archive', 'archive']);
  // Out of the archive into the basket and back: it was done with.
  await put([a], 'waste');
  await put([a], 'archive');
  expect((await listed(a))?.shelf).toBe('archive');
  for (const body of [
    { ids: [], shelf: 'list' },
    { ids: ['../x'], shelf: 'list' },
    { ids: [a], shelf: 'attic' },
    {},
  ])
    expect((await call('/api/sessions/shelf', 'POST', body)).status).toBe(400);
  // Two at once, in either order, do not wait for each other.
  const answers = await Promise.all([put([a, b], 'waste'), put([b, a], 'waste'), put([a, b], 'waste')]);
  expect(answers.map((r) => r.status)).toEqual([200, 200, 200]);
});

it('put back and deleted for good at the same moment, one of both holds', async () => {
  for (let round = 0; round < 12; round++) {
    const id = await newSession(`Race ${round}`);
    await put([id], 'waste');
    const [back, gone] = await Promise.all([put([id], 'list'), call(`/api/sessions/${id}`, 'DELETE')]);
    const isThere = (await listed(id)) !== undefined;
    expect([back.status, gone.status, isThere]).toEqual(isThere ? [200, 422, true] : [404, 200, false]);
  }
});

it('goes for good after thirty days, not before, and never off the list', async () => {
  const [old, fresh, kept] = [await filled('Old'), await newSession('Fresh'), await newSession('Kept')];
  await put([old, fresh], 'waste');
  db();
  const daysAgo = (days: number): Date => new Date(Date.now() - days * 86_400_000);
  await SessionModel.update({ deletedAt: daysAgo(30.1) }, { where: { id: old }, silent: true });
  await SessionModel.update({ deletedAt: daysAgo(29.9) }, { where: { id: fresh }, silent: true });
  await emptyOldWaste();
  expect(await Promise.all([old, fresh, kept].map(async (id) => (await listed(id))?.shelf))).toEqual([
    undefined,
    'waste',
    'list',
  ]);
});

it('a copy has the same tracks and sounds, a history of its own, and stays when the first goes', async () => {
  const id = await filled('Spring tide');
  const first = await viewOf(id);
  const kick = tracksInOrder(first.session)[0];
  await edit(id, 'Rename', [
    { kind: 'track.change', id: kick?.id ?? '', fields: { name: 'Boom', gainDb: -3 } },
  ]);
  const made = await call<{ id: string }>(`/api/sessions/${id}/copies`, 'POST');
  expect(made.status).toBe(200);
  const [from, copy] = [await viewOf(id), await viewOf(made.value.id)];
  const plain = (view: typeof from) =>
    tracksInOrder(view.session).map(({ name, gainDb, family, receivedName, recordingId }) => ({
      name,
      gainDb,
      family,
      receivedName,
      sha256: view.recordings.find((r) => r.id === recordingId)?.sha256,
    }));
  expect(plain(copy)).toEqual(plain(from));
  expect(copy.session.name).toBe('Spring tide (copy)');
  expect(copy.recordings.map((r) => r.receivedName)).toEqual(from.recordings.map((r) => r.receivedName));
  const shared = copy.recordings.filter((r) => from.recordings.some((o) => o.id === r.id));
  expect(shared).toEqual([]);
  expect(copy.undoLabel).toBeNull();
  expect(await EditModel.count({ where: { sessionId: copy.id } })).toBe(1);

  // Each goes its own way.
  const own = Object.values(copy.session.nodes).find(isTrack);
  await edit(copy.id, 'Rename', [{ kind: 'track.change', id: own?.id ?? '', fields: { name: 'Other' } }]);
  expect(plain(await viewOf(id))).toEqual(plain(from));
  await put([id], 'waste');
  expect((await call(`/api/sessions/${id}`, 'DELETE')).status).toBe(200);
  const kept = copy.recordings.find((r) => r.state === 'ready');
  expect((await soundOf(`recordings/${kept?.id}`, 0, 8))[0]).toHaveLength(8);

  const again = await call<{ id: string }>(`/api/sessions/${copy.id}/copies`, 'POST');
  expect((await viewOf(again.value.id)).session.name).toBe('Spring tide (copy 2)');
  expect(codeOf(await call(`/api/sessions/${id}/copies`, 'POST'))).toBe('session.not_found');
});
