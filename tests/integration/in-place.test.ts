import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FolderView, RecordingView, SessionView } from '@/contracts';
import { blobStore } from '@/server/storage';
import { withSounds } from '@/worker/sound-paths';
import { run } from '../support/programs';
import { tone, wavBytes, writeWav } from '../support/recordings';
import {
  call,
  deleteSession,
  killAndWait,
  newSession,
  settled,
  soundOf,
  until,
  viewOf,
} from '../support/server';

// Recordings used where they lie, in a folder that is allowed; beside it one that is not.
const allowed = join(realpathSync(process.env.FERNMOSS_FOLDERS ?? ''), 'library');
const outside = mkdtempSync(join(tmpdir(), 'fernmoss-outside-'));
const store = blobStore();
beforeEach(() => {
  rmSync(allowed, { recursive: true, force: true });
  mkdirSync(join(allowed, 'take 1'), { recursive: true });
});
afterAll(() => {
  rmSync(allowed, { recursive: true, force: true });
  rmSync(outside, { recursive: true, force: true });
});

let hertz = 200;
/** A recording of its own in the library. */
async function put(name: string, seconds = 0.4): Promise<string> {
  hertz += 10;
  const path = join(allowed, name);
  await writeWav(path, [tone(hertz, seconds)]);
  return path;
}
const use = (id: string, paths: readonly string[]) =>
  call<{ taken: number; known: number; fault?: { code: string } }>(`/api/sessions/${id}/in-place`, 'POST', {
    paths,
  });
const find = (id: string, folder: string | null) =>
  call(`/api/sessions/${id}/in-place/find`, 'POST', { folder });
const recordingOf = (view: SessionView, name: string): RecordingView =>
  view.recordings.find((r) => r.receivedName === name) as RecordingView;
const loud = async (r: RecordingView): Promise<boolean> =>
  ((await soundOf(`recordings/${r.id}`, 100, 2000))[0] ?? []).some((x) => Math.abs(x) > 0.05);
/** The player asks again after three seconds at the latest. */
const forgotten = (): Promise<void> =>
  new Promise((done) => {
    setTimeout(done, 3100);
  });
const stateBecomes = (id: string, name: string, state: string) =>
  until(async () => recordingOf(await viewOf(id), name).inPlace?.state === state, `${name} ${state}`);

it('takes a folder in without copying; what has to be decoded is decoded, the file itself stays where it is', async () => {
  await put('take 1/Kick.wav');
  await put('take 1/Snare.wav');
  run('ffmpeg', [
    '-nostdin',
    '-v',
    'error',
    '-i',
    await put('bass.wav'),
    join(allowed, 'take 1', 'Bass.flac'),
  ]);
  rmSync(join(allowed, 'bass.wav'));
  writeFileSync(join(allowed, 'take 1', 'notes.txt'), 'more snare');
  const id = await newSession('In place');
  expect((await use(id, [join(allowed, 'take 1')])).value).toEqual({ taken: 3, known: 0 });
  const view = await settled(id);
  expect(view.recordings.map((r) => [r.receivedName, r.state, r.inPlace?.state])).toEqual([
    ['take 1/Bass.flac', 'ready', 'there'],
    ['take 1/Kick.wav', 'ready', 'there'],
    ['take 1/Snare.wav', 'ready', 'there'],
  ]);
  const kick = recordingOf(view, 'take 1/Kick.wav');
  expect(await store.has(kick.sha256 ?? '')).toBe(false);
  expect(await loud(kick)).toBe(true);
  const space = (await call<{ originalsBytes: number; inPlaceBytes: number }>(`/api/sessions/${id}/space`))
    .value;
  expect(space).toMatchObject({
    originalsBytes: 0,
    inPlaceBytes: ['Bass.flac', 'Kick.wav', 'Snare.wav'].reduce(
      (n, f) => n + statSync(join(allowed, 'take 1', f)).size,
      0,
    ),
  });
  expect((await use(id, [join(allowed, 'take 1')])).value).toEqual({ taken: 0, known: 3 });
  // Nothing there is touched, neither by failures nor by deletion.
  writeFileSync(join(allowed, 'letter.wav'), 'Dear mixer');
  await use(id, [join(allowed, 'letter.wav')]);
  const letter = recordingOf(await settled(id), 'letter.wav');
  expect(letter.fault?.code).toBe('sound.unknown');
  await call(`/api/recordings/${letter.id}`, 'DELETE');
  await deleteSession(id);
  expect(readFileSync(join(allowed, 'letter.wav'), 'utf8')).toBe('Dear mixer');
  expect(statSync(join(allowed, 'take 1', 'Kick.wav')).size).toBe(kick.sizeBytes);
});

it('browses the allowed folders and nothing else, links included', async () => {
  await put('take 1/Kick.wav');
  await writeWav(join(outside, 'secret.wav'), [tone(300, 0.2)]);
  symlinkSync(join(outside, 'secret.wav'), join(allowed, 'link.wav'));
  symlinkSync(outside, join(allowed, 'way out'));
  const listed = (await call<FolderView>(`/api/folders?path=${encodeURIComponent(allowed)}`)).value;
  expect(listed.folders.map((f) => f.name)).toEqual(['take 1']);
  expect(listed.files).toEqual([]);
  const id = await newSession('Outside');
  for (const path of [
    join(outside, 'secret.wav'),
    join(allowed, 'link.wav'),
    join(allowed, 'way out'),
    join(allowed, 'way out', 'secret.wav'),
    join(allowed, '..', '..', 'secret.wav'),
    '/etc/passwd',
  ])
    expect([path, (await use(id, [path])).value.fault?.code]).toEqual([path, 'folder.not_allowed']);
  expect((await use(id, [join(allowed, 'nobody.wav')])).value.fault?.code).toBe('file.missing');
  expect(
    (
      await call<{ fault: { code: string } }>(`/api/sessions/${id}/in-place`, 'POST', {
        paths: ['relative.wav'],
      })
    ).value.fault.code,
  ).toBe('request.invalid');
  // A link put in the place of a file that is in use leads nowhere.
  await use(id, [join(allowed, 'take 1', 'Kick.wav')]);
  await settled(id);
  rmSync(join(allowed, 'take 1', 'Kick.wav'));
  symlinkSync(join(outside, 'secret.wav'), join(allowed, 'take 1', 'Kick.wav'));
  const { inPlace } = recordingOf(await viewOf(id), 'Kick.wav');
  expect(inPlace?.state).toBe('missing');
});

it('a file that was moved is missing, silent, and found again by its name, length and hash', async () => {
  const path = await put('take 1/Kick.wav');
  const id = await newSession('Moved');
  await use(id, [path]);
  const kick = recordingOf(await settled(id), 'Kick.wav');
  mkdirSync(join(allowed, 'archive', 'deep'), { recursive: true });
  const moved = join(allowed, 'archive', 'deep', 'Kick.wav');
  renameSync(path, moved);
  // Same name and length, other sound; and the very sound under another name.
  await writeWav(join(allowed, 'archive', 'Kick.wav'), [tone(999, 0.4)]);
  expect(recordingOf(await viewOf(id), 'Kick.wav').inPlace?.state).toBe('missing');
  await forgotten();
  expect(await loud(kick)).toBe(false);
  const refused = await call<{ id: string }>(`/api/sessions/${id}/handovers`, 'POST', { contents: 'played' });
  expect(refused.status).toBe(200);
  const failed = await until(
    async () => (await viewOf(id)).handovers.find((h) => h.state === 'failed'),
    'a refused package',
  );
  expect(failed.fault).toMatchObject({ code: 'file.missing', path });
  await find(id, null);
  await settled(id);
  expect(recordingOf(await viewOf(id), 'Kick.wav').inPlace?.state).toBe('missing');
  await find(id, allowed);
  await stateBecomes(id, 'Kick.wav', 'there');
  expect(recordingOf(await viewOf(id), 'Kick.wav').inPlace?.path).toBe(moved);
  await forgotten();
  expect(await loud(kick)).toBe(true);
});

it('a new time stamp is looked into; another content of the same length is told, and comes in as it is now', async () => {
  const path = await put('Vox.wav');
  const bytes = readFileSync(path);
  const id = await newSession('Touched');
  await use(id, [path]);
  const vox = recordingOf(await settled(id), 'Vox.wav');
  utimesSync(path, new Date(), new Date(Date.now() - 3_600_000));
  expect(recordingOf(await viewOf(id), 'Vox.wav').inPlace?.state).toBe('touched');
  await find(id, null);
  await stateBecomes(id, 'Vox.wav', 'there');
  // The same bytes again are the same; other bytes are not.
  writeFileSync(path, await wavBytes([tone(777, 0.4)]));
  expect(statSync(path).size).toBe(bytes.length);
  expect(recordingOf(await viewOf(id), 'Vox.wav').inPlace?.state).toBe('touched');
  await find(id, null);
  await settled(id);
  expect(recordingOf(await viewOf(id), 'Vox.wav').inPlace?.state).toBe('touched');
  await forgotten();
  expect(await loud(vox)).toBe(false);
  expect((await use(id, [path])).value).toEqual({ taken: 1, known: 0 });
  const { recordings } = await settled(id);
  expect(recordings.filter((r) => r.state === 'ready')).toHaveLength(2);
  expect(await loud(recordings[1] as RecordingView)).toBe(true);
});

it('copies everything in: from then on the library may go; a kill half-way loses nothing', async () => {
  for (const n of ['a', 'b', 'c', 'd']) await put(`take 1/${n}.wav`, 20);
  const id = await newSession('Copied in');
  await use(id, [join(allowed, 'take 1')]);
  await settled(id);
  await call(`/api/sessions/${id}/in-place/copy`, 'POST');
  await killAndWait('worker.mjs');
  await until(
    async () => (await viewOf(id)).recordings.every((r) => r.inPlace === null),
    'everything copied in',
  );
  rmSync(allowed, { recursive: true });
  const view = await settled(id);
  for (const r of view.recordings) {
    expect(await store.has(r.sha256 ?? '')).toBe(true);
    expect(await loud(r)).toBe(true);
  }
  // Again: there is nothing to do, and that is no fault.
  expect((await call(`/api/sessions/${id}/in-place/copy`, 'POST')).status).toBe(200);
});

it('what is missing cannot be copied in and is named; the rest is', async () => {
  const kick = await put('Kick.wav');
  await put('Snare.wav');
  const id = await newSession('Half a library');
  await use(id, [kick, join(allowed, 'Snare.wav')]);
  await settled(id);
  cpSync(kick, join(outside, 'Kick.wav'));
  rmSync(kick);
  await call(`/api/sessions/${id}/in-place/copy`, 'POST');
  const job = await until(
    async () => (await viewOf(id)).jobs.find((j) => j.kind === 'places.copy-in' && j.state === 'failed'),
    'the copying to end',
  );
  expect(job.fault).toMatchObject({ code: 'file.missing', path: kick });
  const view = await viewOf(id);
  expect(recordingOf(view, 'Snare.wav').inPlace).toBeNull();
  expect(recordingOf(view, 'Kick.wav').inPlace?.state).toBe('missing');
});

it('what was made from a file that was written over meanwhile is not kept', async () => {
  const path = await put('Gtr.wav');
  const id = await newSession('Written over');
  await use(id, [path]);
  const sha256 = recordingOf(await settled(id), 'Gtr.wav').sha256 as string;
  expect(await withSounds([sha256], undefined, (pathOf) => Promise.resolve(pathOf(sha256)))).toBe(path);
  const other = await wavBytes([tone(901, 0.4)]);
  await expect(
    withSounds([sha256], undefined, async () => {
      writeFileSync(path, other);
    }),
  ).rejects.toMatchObject({ fault: { code: 'file.changed', path } });
  rmSync(path);
  await expect(withSounds([sha256], undefined, () => Promise.resolve(1))).rejects.toMatchObject({
    fault: { code: 'file.missing' },
  });
});
