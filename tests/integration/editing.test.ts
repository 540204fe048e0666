import { isTrack, ROOT, SONG_ID, tracksInOrder, type Change } from '@/core/session';
import { DEFAULT_STYLE, proposalEdits, proposeSort } from '@/core/style';
import type { PackageCheck } from '@/engine';
import { loadSession } from '@/server/db';
import { applyToSession, verifyReplay } from '@/server/services';
import { tone, wavBytes } from '../support/recordings';
import { call, edit, killAndWait, newSession, settled, upload, viewOf } from '../support/server';

const NAMES = [
  'KICK in_03.wav',
  'Sn top.wav',
  'OH_L.wav',
  'OH_R.wav',
  'Bass DI.wav',
  'LV.wav',
  'rough mix.wav',
  'rec0011 t2.wav',
];

/** A session with short recordings in it. */
async function filled(name: string): Promise<string> {
  const id = await newSession(name);
  for (const [i, file] of NAMES.entries()) await upload(id, file, await wavBytes([tone(100 + 10 * i, 0.2)]));
  await settled(id);
  return id;
}
const tree = async (id: string): Promise<string> => {
  const { session } = await viewOf(id);
  return JSON.stringify({
    nodes: session.nodes,
    children: session.children,
    buses: session.buses,
    order: session.busOrder,
  });
};

it('applies the house style as one step, takes it back and brings it again, over killed processes', async () => {
  const id = await filled('Undo for ever');
  const before = await tree(id);
  const { session } = await viewOf(id);
  const proposal = proposeSort(session, DEFAULT_STYLE);
  const ticked = new Set(proposal.rows.filter((r) => r.group === 'certain').map((r) => r.trackId));
  expect(
    (await edit(id, 'Apply house style', proposalEdits(session, DEFAULT_STYLE, proposal, ticked))).status,
  ).toBe(200);
  const sorted = await viewOf(id);
  expect(tracksInOrder(sorted.session).map((t) => t.name)).toEqual([
    'Kick In',
    'Snare Top',
    'Overhead L',
    'Overhead R',
    'Bass DI',
    'Lead Vocal',
    'rec0011 t2',
    'Rough Mix',
  ]);
  expect(
    Object.values(sorted.session.nodes)
      .filter(isTrack)
      .find((t) => t.name === 'Rough Mix')?.muted,
  ).toBe(true);
  expect(sorted.undoLabel).toBe('Apply house style');
  const after = await tree(id);
  await killAndWait('web.mjs');
  expect((await call(`/api/sessions/${id}/undo`, 'POST')).status).toBe(200);
  expect(await tree(id)).toBe(before);
  expect((await viewOf(id)).redoLabel).toBe('Apply house style');
  await killAndWait('web.mjs');
  expect((await call(`/api/sessions/${id}/redo`, 'POST')).status).toBe(200);
  expect(await tree(id)).toBe(after);
  expect((await call<{ fault: { code: string } }>(`/api/sessions/${id}/redo`, 'POST')).value.fault.code).toBe(
    'history.nothing_to_redo',
  );
});

it('undo passes by what arrived meanwhile', async () => {
  const id = await filled('Arrivals');
  const track = tracksInOrder((await viewOf(id)).session)[0];
  await edit(id, 'Rename', [{ kind: 'track.change', id: track?.id ?? '', fields: { name: 'Boom' } }]);
  await upload(id, 'late.wav', await wavBytes([tone(999, 0.2)]));
  await settled(id);
  await call(`/api/sessions/${id}/undo`, 'POST');
  const { session } = await viewOf(id);
  expect(session.nodes[track?.id ?? '']?.name).toBe(track?.name);
  expect(tracksInOrder(session)).toHaveLength(NAMES.length + 1);
});

it('all or none: a step with one unfit edit changes nothing', async () => {
  const id = await filled('Atomic');
  const before = await viewOf(id);
  const answer = await edit(id, 'Half good', [
    { kind: 'patch', of: 'song', id: SONG_ID, fields: { notes: 'changed' } },
    { kind: 'remove', of: 'folder', id: 'nowhere' },
  ]);
  expect(answer.value.fault?.code).toBe('edit.unknown_id');
  // The disk is not ours alone.
  expect({ ...(await viewOf(id)), freeBytes: before.freeBytes }).toEqual(before);
});

it('two writers at once: every accepted step is there, the log replays to the rows', async () => {
  const id = await filled('Race');
  const tracks = tracksInOrder((await viewOf(id)).session);
  let accepted = 0;
  const writer = async (own: number): Promise<void> => {
    for (let i = 0; i < 12; i++) {
      const known = await viewOf(id);
      const answer = await edit(
        id,
        `w${own}`,
        [
          {
            kind: 'track.change',
            id: tracks[(i + own) % tracks.length]?.id ?? '',
            fields: { gainDb: -i - own / 10 },
          },
          { kind: 'node.place', id: tracks[i % tracks.length]?.id ?? '', parentId: 'root', index: own },
        ],
        known,
      );
      if (answer.status === 200) accepted++;
      else expect(answer.status).toBe(409);
    }
  };
  const start = (await viewOf(id)).revision;
  await Promise.all([writer(1), writer(2), writer(3)]);
  expect((await viewOf(id)).revision).toBe(start + accepted);
  expect(accepted).toBeGreaterThan(5);
  const { rows, replayed } = await verifyReplay(id);
  expect(replayed).toEqual(rows);
});

it('bad bodies and unknown sessions are answered in kind', async () => {
  const id = await newSession('Bad bodies');
  const raw = async (path: string, body: string) => {
    const r = await fetch(process.env.FERNMOSS_URL + path, {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/json' },
    });
    return [r.status, ((await r.json()) as { fault: { code: string } }).fault.code];
  };
  expect(await raw(`/api/sessions/${id}/edits`, '{"baseRevision":1')).toEqual([400, 'request.invalid']);
  expect(await raw(`/api/sessions/${id}/edits`, '[]')).toEqual([400, 'request.invalid']);
  expect(await raw(`/api/sessions/${id}/edits`, 'x'.repeat(9_000_000))).toEqual([400, 'request.invalid']);
  expect(await raw('/api/sessions', '{"name":"   "}')).toEqual([400, 'request.invalid']);
  for (const bad of ['00000000-0000-4000-8000-000000000000', 'nonsense', '-'.repeat(36), '..%2f..%2fetc']) {
    expect((await call(`/api/sessions/${bad}`)).status).toBe(404);
    expect(
      (
        await call(`/api/sessions/${bad}/edits`, 'POST', {
          baseRevision: 0,
          label: 'x',
          edits: [{ kind: 'patch', of: 'song', id: SONG_ID, fields: { name: 'x' } }],
        })
      ).status,
    ).toBe(404);
    expect((await call(`/api/sessions/${bad}/undo`, 'POST')).status).toBe(404);
    expect((await call(`/api/sessions/${bad}/tempo`, 'POST', {})).status).toBe(404);
    expect((await call(`/api/sessions/${bad}/handovers`, 'POST')).status).toBe(404);
    expect((await call(`/api/sessions/${bad}`, 'DELETE')).status).toBe(404);
    expect((await call(`/api/handovers/${bad}/package`)).status).toBe(404);
  }
});

it('a session read while others edit it is that of one revision, whole', async () => {
  const id = await filled('Two at work');
  const before = await viewOf(id);
  const tracks = Object.values(before.session.nodes).filter(isTrack);
  let isOver = false;
  const editor = async (folderId: string): Promise<void> => {
    for (let n = 0; !isOver; n++) {
      const folder = `${folderId}-${n}`;
      const steps: Change[][] = [
        [
          {
            kind: 'folder.add',
            folder: { kind: 'folder', id: folder, name: folder, color: null, busId: null },
            parentId: ROOT,
            index: 0,
          },
          ...tracks.map((t): Change => ({ kind: 'node.place', id: t.id, parentId: folder, index: 0 })),
        ],
        [
          ...tracks.map((t): Change => ({ kind: 'node.place', id: t.id, parentId: ROOT, index: 0 })),
          { kind: 'folder.remove', id: folder },
        ],
      ];
      for (const edits of steps)
        await applyToSession(id, edits, { label: folder, author: 'person' }).catch(() => undefined);
    }
  };
  const editors = [editor('left'), editor('right')];
  const seen = new Map<number, number>();
  // A busy machine takes longer for as many.
  for (const begin = Date.now(); Date.now() < begin + (seen.size > 10 ? 4000 : 60_000);) {
    const loaded = await loadSession(id);
    if (!loaded) throw new Error('the session is gone');
    const there = tracksInOrder(loaded.session).length;
    expect([loaded.revision, there]).toEqual([loaded.revision, tracks.length]);
    seen.set(loaded.revision, there);
  }
  isOver = true;
  await Promise.all(editors);
  expect(seen.size).toBeGreaterThan(10);
  const { rows, replayed } = await verifyReplay(id);
  expect(rows).toEqual(replayed);
});

it('sixteen packages asked for at once are all answered', async () => {
  const id = await filled('Sixteen at once');
  const answers = await Promise.all(
    Array.from({ length: 16 }, () =>
      call<{ id?: string }>(`/api/sessions/${id}/handovers`, 'POST', { contents: 'played', folder: null }),
    ),
  );
  expect(answers.map((a) => a.status)).toEqual(Array.from({ length: 16 }, () => 200));
  await settled(id);
  const { handovers } = await viewOf(id);
  expect(handovers.map((h) => h.state)).toEqual(Array.from({ length: 16 }, () => 'done'));
  for (const h of handovers)
    expect(
      (h.report as { checks: PackageCheck[] }).checks.find((c) => c.code === 'all-tracks'),
    ).toMatchObject({
      pass: true,
      title: `Every track of the session as of step ${h.revision} is in the package`,
    });
});
