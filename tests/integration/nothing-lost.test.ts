import { execFileSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FolderView, HandoverView, HistoryView, ReturnView, SessionView, SpaceView } from '@/contracts';
import { type Change, isTrack, tracksInOrder } from '@/core/session';
import { createSongMap, songMapToFile } from '@/core/time';
import { DEFAULT_STYLE, proposalEdits, proposeSort } from '@/core/style';
import { verifyReplay } from '@/server/services';
import { fernmoss } from '../support/programs';
import { knocks, tone, wavBytes } from '../support/recordings';
import {
  edit as editOf,
  call,
  killAndWait,
  newSession,
  pidOf,
  settled,
  soundOf,
  until,
  upload,
  viewOf,
} from '../support/server';

const FOLDERS = process.env.FERNMOSS_FOLDERS ?? '';
const BEATS = Array.from({ length: 24 }, (_, i) => 1 + i * 0.5);
const MAP = songMapToFile(
  createSongMap(
    BEATS.map((seconds, quarters) => ({ quarters, seconds })),
    [{ bar: 1, numerator: 4, denominator: 4 }],
  ),
);
const FACTS = {
  steady: true,
  bpm: 120,
  foundBy: null,
  pulses: BEATS.map((seconds) => ({ seconds, confidence: 1 })),
};

let id: string;
const edit = async (label: string, changes: readonly Change[]): Promise<void> => {
  const { status, value } = await editOf(id, label, changes);
  if (status !== 200) throw new Error(JSON.stringify(value));
};
const faultOf = async (
  answer: Promise<{ readonly status: number; readonly value: unknown }>,
): Promise<[number, string | undefined]> => {
  const { status, value } = await answer;
  return [status, (value as { fault?: { code: string } } | null)?.fault?.code];
};
const content = (view: SessionView): unknown => {
  const { nodes, children, buses, busOrder, map, conform } = view.session;
  return { nodes, children, buses, busOrder, map, conform };
};
const history = async (): Promise<HistoryView> =>
  (await call<HistoryView>(`/api/sessions/${id}/history`)).value;
const space = async (): Promise<SpaceView> => (await call<SpaceView>(`/api/sessions/${id}/space`)).value;
const goBack = async (revision: number): Promise<void> => {
  const { value } = await call<ReturnView>(`/api/sessions/${id}/return?revision=${revision}`);
  expect(
    (await call(`/api/sessions/${id}/return`, 'POST', { revision, baseRevision: value.revision })).status,
  ).toBe(200);
};
const handedOver = async (folder: string | null = null): Promise<HandoverView> => {
  const { value } = await call<{ id: string }>(`/api/sessions/${id}/handovers`, 'POST', {
    contents: 'played',
    folder,
  });
  return until(
    async () => (await viewOf(id)).handovers.find((h) => h.id === value.id && h.state !== 'building'),
    'the package',
  );
};

beforeAll(async () => {
  id = await newSession('Kept');
  await upload(id, 'KICK in.wav', await wavBytes([knocks(BEATS, 14, 60)]));
  await upload(id, 'Sn top.wav', await wavBytes([knocks(BEATS, 14, 210)]));
  await upload(id, 'LV.wav', await wavBytes([tone(440, 14, 0.2)]));
  await settled(id);
});

describe('checkpoints and the way back', () => {
  it('a named state comes back as it was, as one step that can be undone; over killed processes', async () => {
    const { session } = await viewOf(id);
    const proposal = proposeSort(session, DEFAULT_STYLE);
    await edit(
      'Apply house style',
      proposalEdits(session, DEFAULT_STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId))),
    );
    const sorted = await viewOf(id);
    const { value: made } = await call<{ id: string }>(`/api/sessions/${id}/checkpoints`, 'POST', {
      name: 'Sorted',
    });
    await edit('A map', [{ kind: 'map.replace', map: MAP, facts: FACTS }]);
    const [kick, snare] = tracksInOrder(sorted.session);
    await edit('Rename', [
      { kind: 'track.change', id: kick?.id ?? '', fields: { name: 'Boom' } },
      { kind: 'track.remove', id: snare?.id ?? '' },
    ]);
    const later = await viewOf(id);
    await killAndWait('web.mjs');

    const seen = await history();
    expect(seen.checkpoints).toMatchObject([{ id: made.id, name: 'Sorted', revision: sorted.revision }]);
    expect(seen.steps.map((s) => s.label).slice(0, 3)).toEqual(['Rename', 'A map', 'Apply house style']);
    const { value: preview } = await call<ReturnView>(
      `/api/sessions/${id}/return?revision=${sorted.revision}`,
    );
    expect(preview.summary).toMatchObject({
      renamed: [{ from: 'Boom', to: 'Kick In' }],
      tracksAdded: 1,
      map: 'removed',
    });
    expect((await viewOf(id)).revision).toBe(later.revision);

    await goBack(sorted.revision);
    expect(content(await viewOf(id))).toEqual(content(sorted));
    expect((await viewOf(id)).undoLabel).toBe('Back to “Sorted”');
    await call(`/api/sessions/${id}/undo`, 'POST');
    expect(content(await viewOf(id))).toEqual(content(later));
    expect((await call(`/api/checkpoints/${made.id}`, 'DELETE')).status).toBe(200);
    expect((await history()).checkpoints).toEqual([]);
    const { rows, replayed } = await verifyReplay(id);
    expect(rows).toEqual(replayed);
  });

  it('as received is always there: all that came, nothing that was done; what came later stays', async () => {
    const before = await viewOf(id);
    await upload(id, 'late.wav', await wavBytes([tone(300, 2, 0.1)]));
    await settled(id);
    await goBack(0);
    const { session } = await viewOf(id);
    // Whichever of those sent together was read first stands first.
    expect(
      tracksInOrder(session)
        .map((t) => [t.name, t.receivedName].join())
        .sort(),
    ).toEqual(
      ['KICK in.wav', 'LV.wav', 'Sn top.wav', 'late.wav'].map((n) => [n.replace('.wav', ''), n].join()),
    );
    expect(Object.values(session.nodes).every(isTrack)).toBe(true);
    expect([session.map, session.busOrder, session.name]).toEqual([null, [], 'Kept']);
    await call(`/api/sessions/${id}/undo`, 'POST');
    expect(tracksInOrder((await viewOf(id)).session)).toHaveLength(tracksInOrder(before.session).length + 1);
  });

  it('a stale or impossible way back is refused', async () => {
    const { revision } = await viewOf(id);
    expect(
      await faultOf(call(`/api/sessions/${id}/return`, 'POST', { revision: 0, baseRevision: revision - 1 })),
    ).toEqual([409, 'session.stale_revision']);
    expect(await faultOf(call(`/api/sessions/${id}/return?revision=${revision + 5}`))).toEqual([
      400,
      'request.invalid',
    ]);
    expect(await faultOf(call(`/api/sessions/${id}/return?revision=-1`))).toEqual([400, 'request.invalid']);
    expect(await faultOf(call(`/api/sessions/${id}/checkpoints`, 'POST', { name: '  ' }))).toEqual([
      400,
      'request.invalid',
    ]);
    expect((await call('/api/checkpoints/00000000-0000-4000-8000-000000000000', 'DELETE')).status).toBe(404);
  });
});

describe('packages in a folder of this machine', () => {
  it('are written there under their own name, verified there, and half of one is never seen', async () => {
    const folder = join(FOLDERS, 'for the mixer');
    mkdirSync(folder);
    const done = await handedOver(folder);
    expect(done.state).toBe('done');
    const copied = await until(
      async () => (await viewOf(id)).handovers.find((h) => h.id === done.id && h.copies.length > 0),
      'the copy',
    );
    expect(copied.copies[0]?.path).toBe(join(folder, done.folderName));
    expect(readdirSync(folder)).toEqual([done.folderName]);
    expect(fernmoss(['verify', join(folder, done.folderName)]).status).toBe(0);
    // The same again: it is there and is left as it is.
    expect(await faultOf(call(`/api/handovers/${done.id}/copy`, 'POST', { folder }))).toEqual([
      422,
      'delivery.folder_taken',
    ]);
  });

  it('a worker killed while it writes leaves nothing half; the copy is made again', async () => {
    const done = await handedOver();
    const folder = join(FOLDERS, 'killed');
    mkdirSync(folder);
    await call(`/api/handovers/${done.id}/copy`, 'POST', { folder });
    await killAndWait('worker.mjs');
    await until(
      async () => (await viewOf(id)).handovers.find((h) => h.id === done.id && h.copies.length === 1),
      'the copy',
    );
    expect(readdirSync(folder)).toEqual([done.folderName]);
  });

  it('never outside the allowed folders, links followed; what is in the way is left alone', async () => {
    const outside = mkdtempSync(join(tmpdir(), 'fernmoss-outside-'));
    try {
      symlinkSync(outside, join(FOLDERS, 'way out'));
      const done = (await viewOf(id)).handovers.find((h) => h.state === 'done') as HandoverView;
      for (const folder of [
        outside,
        join(FOLDERS, 'way out'),
        join(FOLDERS, '..'),
        `${FOLDERS}/../etc`,
        '/',
        '/etc/passwd',
      ]) {
        expect(await faultOf(call(`/api/handovers/${done.id}/copy`, 'POST', { folder }))).toEqual([
          422,
          'folder.not_allowed',
        ]);
        expect(await faultOf(call(`/api/folders?path=${encodeURIComponent(folder)}`))).toEqual([
          422,
          'folder.not_allowed',
        ]);
      }
      expect(
        await faultOf(call(`/api/handovers/${done.id}/copy`, 'POST', { folder: join(FOLDERS, 'nowhere') })),
      ).toEqual([422, 'folder.not_there']);
      expect(await faultOf(call(`/api/handovers/${done.id}/copy`, 'POST', { folder: 'relative' }))).toEqual([
        400,
        'request.invalid',
      ]);
      expect(readdirSync(outside)).toEqual([]);
      const { value: top } = await call<FolderView>('/api/folders');
      expect(top.folders.map((f) => f.path)).toEqual([FOLDERS]);
      const { value: inside } = await call<FolderView>(`/api/folders?path=${encodeURIComponent(FOLDERS)}`);
      expect(inside.folders.map((f) => f.name)).toEqual(expect.arrayContaining(['for the mixer', 'killed']));
      expect(inside.folders.map((f) => f.name)).not.toContain('way out');

      // A folder of that name made by someone else between asking and writing.
      const folder = join(FOLDERS, 'taken');
      mkdirSync(join(folder, done.folderName), { recursive: true });
      writeFileSync(join(folder, done.folderName, 'mine.txt'), 'keep');
      expect(await faultOf(call(`/api/handovers/${done.id}/copy`, 'POST', { folder }))).toEqual([
        422,
        'delivery.folder_taken',
      ]);
      expect(readdirSync(join(folder, done.folderName))).toEqual(['mine.txt']);
    } finally {
      rmSync(outside, { recursive: true, force: true });
    }
  });
});

describe('space', () => {
  it('says what a session takes, and cleans away what can go; what is made again has the same bytes', async () => {
    await edit('A map', [{ kind: 'map.replace', map: MAP, facts: FACTS }]);
    const settings = (bpm: number): Change => ({
      kind: 'conform.set',
      conform: { bpm, treatments: {}, heard: 'played' },
    });
    const conformed = (): Promise<SessionView> =>
      until(async () => {
        const v = await settled(id);
        return v.conform && v.conform.ready.length === v.conform.wanted && v;
      }, 'all conformed');
    await edit('Conform', [settings(118)]);
    await conformed();
    await edit('Conform', [settings(122)]);
    const view = await conformed();
    const key = view.conform?.ready[0]?.key ?? '';
    const bytes = await soundOf(`conformed/${key}`, 0, 1 << 20);
    const full = await space();
    const folder = join(process.env.FERNMOSS_DATA ?? '', 'blobs');
    const onDisk = (): number =>
      Number(execFileSync('du', ['-sb', folder], { encoding: 'utf8' }).split('\t')[0]);
    expect(full.originalsBytes).toBe(view.recordings.reduce((n, r) => n + r.sizeBytes, 0));
    expect(full.leftoverBytes).toBeGreaterThan(1e6);
    expect(full.packages.length).toBe(2);
    const before = onDisk();

    const gone = full.packages[0];
    expect(
      (
        await call(`/api/sessions/${id}/clean`, 'POST', {
          leftovers: true,
          conformed: true,
          packages: [gone?.id],
        })
      ).status,
    ).toBe(200);
    const clean = await space();
    expect([clean.leftoverBytes, clean.conformedBytes, clean.packages.length, clean.originalsBytes]).toEqual([
      0,
      0,
      1,
      full.originalsBytes,
    ]);
    expect(before - onDisk()).toBeGreaterThan(0.95 * (full.leftoverBytes + full.conformedBytes));
    const removed = (await viewOf(id)).handovers.find((h) => h.id === gone?.id);
    expect(removed?.state).toBe('removed');
    expect((await call(`/api/handovers/${gone?.id}/package`)).status).toBe(404);
    expect(existsSync(join(process.env.FERNMOSS_DATA ?? '', 'packages', id, gone?.id ?? ''))).toBe(false);
    // Its number is not given again.
    expect((await handedOver()).number).toBe(Math.max(...view.handovers.map((h) => h.number)) + 1);

    await call(`/api/sessions/${id}/conform`, 'POST', {});
    await conformed();
    expect(await soundOf(`conformed/${key}`, 0, 1 << 20)).toEqual(bytes);
  });

  it('is not cleaned while jobs of the session are at work', async () => {
    // The worker stands still meanwhile, so that the call comes first on any machine.
    const worker = pidOf('worker.mjs') as number;
    process.kill(worker, 'SIGSTOP');
    try {
      await edit('Conform', [
        { kind: 'conform.set', conform: { bpm: 117, treatments: {}, heard: 'played' } },
      ]);
      expect(await faultOf(call(`/api/sessions/${id}/clean`, 'POST', { leftovers: true }))).toEqual([
        409,
        'session.busy',
      ]);
    } finally {
      process.kill(worker, 'SIGCONT');
    }
    await settled(id);
  });

  it('the ways to the bytes of a session stay its own: no id leads elsewhere', async () => {
    for (const path of [
      '/api/sessions/..%2F..%2Fetc/space',
      '/api/sessions/x/history',
      '/api/handovers/..%2Fx/copy',
    ])
      expect(
        (
          await call(
            path,
            path.endsWith('copy') ? 'POST' : 'GET',
            path.endsWith('copy') ? { folder: FOLDERS } : undefined,
          )
        ).status,
      ).toBe(404);
    expect(statSync(FOLDERS).isDirectory()).toBe(true);
  });
});
