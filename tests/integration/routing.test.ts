import {
  applyChanges,
  isTrack,
  routingNotes,
  tracksInOrder,
  type SessionState,
  type Track,
} from '@/core/session';
import { DEFAULT_STYLE, type HouseStyle, proposalEdits, proposeSort } from '@/core/style';
import { verifyReplay } from '@/server/services';
import { tone, wavBytes } from '../support/recordings';
import { call, edit, newSession, settled, soundOf, until, upload, viewOf } from '../support/server';

const take = async (style: Partial<HouseStyle> & { readonly name: string }): Promise<string> =>
  (await call<{ id: string }>('/api/styles', 'POST', { text: JSON.stringify(style) })).value.id;
const named = (s: SessionState, name: string): Track =>
  tracksInOrder(s).find((t) => t.name === name) as Track;
const replays = async (id: string): Promise<void> => {
  const { rows, replayed } = await verifyReplay(id);
  expect(rows).toEqual(replayed);
};
/** A session that follows a style, with recordings of short tones. */
async function received(
  name: string,
  style: string | null,
  files: Readonly<Record<string, Float32Array[]>>,
): Promise<string> {
  const id = await newSession(name);
  if (style !== null) await edit(id, 'Follow', [{ kind: 'style.use', style: { id: style, version: 1 } }]);
  for (const [file, channels] of Object.entries(files)) await upload(id, file, await wavBytes(channels));
  await settled(id);
  return id;
}
const RETURNS: Partial<HouseStyle> = {
  returns: [{ key: 'room', name: 'Room', color: null, into: 'voices' }],
  sends: [
    { from: 'tracks', when: { part: ['snare'] }, to: 'room', gainDb: -6, pan: null, before: true },
    { from: 'sums', when: { folder: ['bass'] }, to: 'room', gainDb: -20, pan: 0.5, before: false },
  ],
};

it('sends, returns and groups of a style are made, kept in tables, changed by hand, undone and replayed', async () => {
  const style = await take({ name: 'Roomy', ...RETURNS });
  const id = await received('Routed', style, {
    'Kick In.wav': [tone(60, 0.2)],
    'Snare Top.wav': [tone(200, 0.2)],
    'Bass DI.wav': [tone(80, 0.2)],
  });
  const before = await viewOf(id);
  const proposal = proposeSort(before.session, before.style);
  await edit(
    id,
    'Apply',
    proposalEdits(before.session, before.style, proposal, new Set(proposal.rows.map((r) => r.trackId))),
  );
  const { session } = await viewOf(id);
  expect(named(session, 'Snare Top').sends).toEqual([
    { busId: 'return-room', gainDb: -6, pan: null, before: true },
  ]);
  // Its sum, the voices, is not there: it goes to the mix bus.
  expect(session.buses['return-room']).toMatchObject({ kind: 'return', name: 'Room', outputBusId: null });
  expect(session.buses['bus-bass']?.sends).toEqual([
    { busId: 'return-room', gainDb: -20, pan: 0.5, before: false },
  ]);
  expect(session.groups).toMatchObject([
    {
      id: 'group-kit',
      name: 'Kit',
      on: true,
      trackIds: [named(session, 'Kick In').id, named(session, 'Snare Top').id],
    },
  ]);
  expect(routingNotes(session)).toEqual([]);
  // A loop is refused, and leaves nothing behind.
  expect(
    (
      await edit(id, 'Round', [
        { kind: 'patch', of: 'bus', id: 'return-room', fields: { outputBusId: 'bus-bass' } },
      ])
    ).value.fault?.code,
  ).toBe('edit.into_itself');
  await edit(id, 'No room', [
    { kind: 'track.change', id: named(session, 'Snare Top').id, fields: { sends: [], byHand: ['sends'] } },
    { kind: 'groups.set', groups: [] },
  ]);
  expect((await viewOf(id)).session).toMatchObject({ groups: [] });
  await replays(id);
  await call(`/api/sessions/${id}/undo`, 'POST');
  expect((await viewOf(id)).session).toEqual(session);
  await replays(id);
});

it('what is certain is sorted by itself once all has arrived; what was undone is left so until more comes', async () => {
  const style = await take({ name: 'Itself', atImport: 'certain' });
  const id = await received('By itself', style, {
    'Kick In.wav': [tone(60, 0.2)],
    'rec0011.wav': [tone(200, 0.2)],
  });
  const sorted = await until(async () => {
    const v = await viewOf(id);
    return v.session.nodes['folder-drums'] ? v : null;
  }, 'the style to sort by itself');
  expect(sorted.undoLabel).toBe('House style, by itself: 1 track');
  expect(tracksInOrder(sorted.session).map((t) => [t.name, t.busId])).toEqual([
    ['Kick In', 'bus-drums'],
    ['rec0011', null],
  ]);
  await call(`/api/sessions/${id}/undo`, 'POST');
  await upload(id, 'Bass DI.wav', await wavBytes([tone(80, 0.3)]));
  await settled(id);
  const later = await until(async () => {
    const v = await viewOf(id);
    return v.session.nodes['folder-bass'] ? v : null;
  }, 'the second to be sorted');
  expect(later.session.nodes['folder-drums']).toBeUndefined();
  expect(tracksInOrder(later.session).map((t) => t.name)).toEqual(['Bass DI', 'Kick In', 'rec0011']);
  await replays(id);
});

it('two mono tracks are joined to one stereo track as one step, heard so, and split again; a stereo file is split in two', async () => {
  const id = await received('Pairs', null, {
    'Piano L.wav': [tone(300, 0.5, 0.5)],
    'Piano R.wav': [tone(500, 0.4, 0.25)],
    'Keys.wav': [tone(200, 0.3, 0.5), tone(250, 0.3, 0.25)],
  });
  const start = (await viewOf(id)).session;
  const pair = (s: SessionState): string[] => ['Piano L', 'Piano R'].map((n) => named(s, n).id);
  const refused = await call<{ fault: { code: string; what: string } }>(`/api/sessions/${id}/pairs`, 'POST', {
    join: [named(start, 'Keys').id, named(start, 'Piano L').id],
  });
  expect(refused.value.fault).toMatchObject({ code: 'pair.unlike', what: 'channels' });
  expect((await call(`/api/sessions/${id}/pairs`, 'POST', { join: [...pair(start)].reverse() })).status).toBe(
    200,
  );
  const joined = await until(async () => {
    const v = await viewOf(id);
    return tracksInOrder(v.session).some((t) => t.name === 'Piano') ? v : null;
  }, 'the pair to be joined');
  const track = named(joined.session, 'Piano');
  expect(track).toMatchObject({ receivedName: 'Piano', side: null, pan: 0, id: pair(start)[0] });
  expect(joined.recordings.find((r) => r.id === track.recordingId)).toMatchObject({
    channels: 2,
    lengthFrames: 24_000,
    bitDepth: 24,
    state: 'ready',
  });
  const [left, right] = await soundOf(`recordings/${track.recordingId}`, 0, 24_000);
  expect(Math.max(...(left as Float32Array))).toBeCloseTo(0.5, 3);
  expect(Math.max(...(right as Float32Array))).toBeCloseTo(0.25, 3);
  expect((right as Float32Array).slice(19_300).every((x) => x === 0)).toBe(true);
  expect(joined.undoLabel).toBe('Join Piano L and Piano R');
  await replays(id);
  // Undo and the same again: the same recording, not another.
  await call(`/api/sessions/${id}/undo`, 'POST');
  expect((await viewOf(id)).session).toEqual(start);
  await call(`/api/sessions/${id}/pairs`, 'POST', { join: pair(start) });
  const again = await until(async () => {
    const v = await viewOf(id);
    return tracksInOrder(v.session).some((t) => t.name === 'Piano') ? v : null;
  }, 'the pair to be joined again');
  expect(named(again.session, 'Piano').recordingId).toBe(track.recordingId);
  expect(again.recordings).toHaveLength(joined.recordings.length);
  expect((await call(`/api/sessions/${id}/pairs`, 'POST', { split: track.id })).status).toBe(200);
  const split = (await viewOf(id)).session;
  expect(
    tracksInOrder(split)
      .map((t) => [t.name, t.recordingId, t.pan])
      .sort(),
  ).toEqual([
    ['Keys', named(start, 'Keys').recordingId, 0],
    ['Piano L', named(start, 'Piano L').recordingId, -1],
    ['Piano R', named(start, 'Piano R').recordingId, 1],
  ]);
  // A stereo file: both tracks are of the one recording, a side each.
  await call(`/api/sessions/${id}/pairs`, 'POST', { split: named(split, 'Keys').id });
  const sides = tracksInOrder((await viewOf(id)).session).filter((t) => t.name.startsWith('Keys'));
  expect(sides.map((t) => [t.name, t.monoFrom, t.pan, t.recordingId === sides[0]?.recordingId])).toEqual([
    ['Keys L', 'left', -1, true],
    ['Keys R', 'right', 1, true],
  ]);
  const heard = await soundOf(`recordings/${sides[1]?.recordingId ?? ''}/right`, 0, 4000);
  expect(Math.max(...(heard[0] as Float32Array))).toBeCloseTo(0.25, 3);
  expect(
    (await call<{ fault: { what: string } }>(`/api/sessions/${id}/pairs`, 'POST', { split: sides[0]?.id }))
      .value.fault.what,
  ).toBe('stereo');
  expect(
    (
      await call(`/api/sessions/${id}/pairs`, 'POST', {
        split: sides[0]?.id,
        join: [sides[0]?.id, sides[1]?.id],
      })
    ).status,
  ).toBe(400);
  await replays(id);
});

it('a new version of a style reaches sums that are there, even with nothing else to do', async () => {
  const id = await received('Sums', null, { 'Bass DI.wav': [tone(80, 0.2)] });
  const apply = async (style: HouseStyle): Promise<SessionState> => {
    const { session } = await viewOf(id);
    const proposal = proposeSort(session, style);
    const edits = proposalEdits(session, style, proposal, new Set(proposal.rows.map((r) => r.trackId)));
    if (edits.length > 0) await edit(id, 'Apply', edits);
    return (await viewOf(id)).session;
  };
  await apply(DEFAULT_STYLE);
  const roomy = { ...DEFAULT_STYLE, ...RETURNS } as HouseStyle;
  const before = (await viewOf(id)).session;
  expect(proposeSort(before, roomy).sums).toEqual(['bus-bass']);
  const after = await apply(roomy);
  expect(after.buses['bus-bass']?.sends).toHaveLength(1);
  expect(
    Object.values(after.nodes)
      .filter(isTrack)
      .map((t) => t.sends),
  ).toEqual([[]]);
  // A person's choice holds against the style.
  const hand = applyChanges(after, [
    { kind: 'bus.change', id: 'bus-bass', fields: { sends: [], byHand: ['sends'] } },
  ]);
  expect(hand.ok && proposeSort(hand.session, roomy).sums).toEqual([]);
  // The old style again: what nothing is sent to any more goes.
  expect((await apply(DEFAULT_STYLE)).busOrder).toEqual(['bus-bass']);
});
