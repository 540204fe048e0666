import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { tracksInOrder } from '@/core/session';
import { fernmoss, run } from '../support/programs';
import { tone, wavBytes } from '../support/recordings';
import { BASE, call, edit, newSession, settled, until, upload, viewOf } from '../support/server';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-takes-handover-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const built = async (id: string, number: number) => {
  expect((await call(`/api/sessions/${id}/handovers`, 'POST')).status).toBe(200);
  const done = await until(async () => {
    const h = (await viewOf(id)).handovers.find((x) => x.number === number);
    return h && h.state !== 'building' && h;
  }, `package v${number}`);
  expect([done.state, done.fault]).toEqual(['done', null]);
  const zip = join(folder, `v${number}.zip`);
  writeFileSync(
    zip,
    Buffer.from(await (await fetch(`${BASE}/api/handovers/${done.id}/package`)).arrayBuffer()),
  );
  // Taken apart and read by somebody else's programs.
  run('/usr/bin/python3', ['-m', 'zipfile', '-e', zip, join(folder, `v${number}`)]);
  expect(fernmoss(['verify', zip]).status).toBe(0);
  return join(folder, `v${number}`, done.folderName, 'data');
};
const note = (data: string): string => readFileSync(join(data, 'session/cover-note.html'), 'utf8');

it('takes lie in a package where the house style wants them, else they are told as not in it', async () => {
  const id = await newSession('Neap');
  for (const [name, hz] of [
    ['Vox t1.wav', 220],
    ['Vox t2.wav', 233],
    ['Vox t3.wav', 247],
    ['Kick.wav', 60],
  ] as const)
    await upload(id, name, await wavBytes([tone(hz, name.includes('t3') ? 2 : 1, 0.4)]));
  await settled(id);
  // Names say that they are takes: they are looked for unasked, and nothing is packed by itself.
  const looked = await until(async () => (await viewOf(id)).takes, 'takes to be found');
  expect(looked.takes.map((t) => t.lanes.length)).toEqual([3]);
  const tracks = tracksInOrder((await viewOf(id)).session);
  expect(tracks).toHaveLength(4);
  const [first, second, third] = ['t1', 't2', 't3'].map((t) =>
    tracks.find((x) => x.receivedName.includes(t)),
  );
  if (!first || !second || !third) throw new Error('three takes');
  const lanes = [first, second, third].map((t, i) => ({ trackId: t.id, takeNumber: i + 1 }));
  await edit(id, 'Pack', [{ kind: 'lanes.pack', id: first.id, lanes }]);
  const packed = tracksInOrder((await viewOf(id)).session).find((t) => t.id === first.id);
  const lane = (n: number) => packed?.otherLanes.find((l) => l.takeNumber === n)?.id ?? '';
  await edit(id, 'Say what they are', [
    { kind: 'patch', of: 'lane', id: lane(2), fields: { takeRating: 'maybe', takeNote: 'flat at the end' } },
    { kind: 'patch', of: 'lane', id: lane(3), fields: { takeAside: true } },
  ]);

  const plain = await built(id, 1);
  expect(readdirSync(plain)).not.toContain('takes');
  expect(note(plain)).toMatch(/Vox t2\.wav<\/code>: another take of/);

  const style = await call<{ id: string }>('/api/styles', 'POST', { text: 'name: Quayside\ntakes: all\n' });
  await edit(id, 'Follow', [{ kind: 'style.use', style: { id: style.value.id, version: 1 } }]);
  const all = await built(id, 2);
  const takes = readdirSync(join(all, 'takes')).sort();
  expect(takes).toEqual([
    expect.stringMatching(/^\d\d_.*_take-1\.wav$/),
    expect.stringMatching(/^\d\d_.*_take-2\.wav$/),
  ]);
  const framesOf = (path: string): string =>
    run('ffprobe', ['-v', 'error', '-show_entries', 'stream=duration_ts', '-of', 'csv=p=0', path]).trim();
  const frames = ['takes', 'audio'].flatMap((f) =>
    readdirSync(join(all, f)).map((t) => framesOf(join(all, f, t))),
  );
  expect([frames.length, new Set(frames).size]).toEqual([4, 1]);
  expect(note(all)).not.toContain('Vox t2.wav</code>: another take of');
  expect(note(all)).toMatch(/Vox t3\.wav<\/code>: another take of/);
  expect(note(all)).toContain('maybe; flat at the end');
});
