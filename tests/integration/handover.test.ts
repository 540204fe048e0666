import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseManifest } from '@/core/delivery';
import { type Change, tracksInOrder } from '@/core/session';
import { acceptEdit, type TempoReading } from '@/core/tempo';
import { fernmoss, run } from '../support/programs';
import { knocks, tone, wavBytes } from '../support/recordings';
import {
  edit as editOf,
  editsFor,
  BASE,
  call,
  killAndWait,
  newSession,
  settled,
  soundOf,
  until,
  upload,
  viewOf,
} from '../support/server';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-handover-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const BEATS = Array.from({ length: 72 }, (_, i) => 3 + i * 0.5);
let id: string;
beforeAll(async () => {
  id = await newSession('Slip & Slope');
  await upload(
    id,
    'Kick.wav',
    await wavBytes([
      knocks(
        BEATS.filter((_, i) => i % 2 === 0),
        40,
        60,
      ),
    ]),
  );
  await upload(
    id,
    'Snare.wav',
    await wavBytes([
      knocks(
        BEATS.filter((_, i) => i % 2 === 1),
        40,
        210,
      ),
    ]),
  );
  await upload(id, 'HH.wav', await wavBytes([knocks(BEATS, 40, 5000)]));
  await upload(id, 'OH.wav', await wavBytes([tone(300, 40, 0.1), tone(301, 40, 0.1)]));
  await upload(id, 'odd rate.wav', await wavBytes([tone(1000, 5, 0.5, 44_100)], { rateHz: 44_100 }));
  await upload(id, 'not sound.wav', new TextEncoder().encode('hello there, this is a letter'));
  await settled(id);
});

/** The package's ZIP on our disk, taken apart by someone else's program. */
async function fetched(handoverId: string, name: string): Promise<string> {
  const zip = join(folder, `${name}.zip`);
  writeFileSync(
    zip,
    Buffer.from(await (await fetch(`${BASE}/api/handovers/${handoverId}/package`)).arrayBuffer()),
  );
  run('/usr/bin/python3', ['-m', 'zipfile', '-e', zip, join(folder, name)]);
  return zip;
}
const built = (number: number) =>
  until(async () => {
    const h = (await viewOf(id)).handovers.find((x) => x.number === number);
    return h && h.state !== 'building' && h;
  }, `package v${number}`);

it('finds the tempo as a job, takes the map, hands over, verified by others', async () => {
  const { value } = await call<{ jobId: string }>(`/api/sessions/${id}/tempo`, 'POST', { timekeepers: null });
  expect(value).toBeDefined();
  const view = await until(async () => {
    const v = await viewOf(id);
    return v.tempo && v;
  }, 'the tempo');
  const reading = view.tempo?.result as TempoReading;
  expect(reading).toMatchObject({ steady: true, bpm: 120 });
  expect(
    (
      await call(`/api/sessions/${id}/edits`, 'POST', {
        baseRevision: view.revision,
        label: 'Accept the tempo map',
        edits: editsFor(view.session, [acceptEdit(reading, view.tempo?.jobId ?? null)]),
      })
    ).status,
  ).toBe(200);
  expect((await call(`/api/sessions/${id}/handovers`, 'POST')).status).toBe(200);
  const v1 = await built(1);
  expect([v1.state, v1.fault]).toEqual(['done', null]);
  const zip = await fetched(v1.id, 'v1');
  expect(fernmoss(['verify', zip]).status).toBe(0);
  // The click carries the places, as somebody else's program reads them.
  const click = join(folder, 'v1', v1.folderName, 'data/reference/Click_with-count-in.wav');
  const places = run('ffprobe', [
    '-v',
    'error',
    '-show_entries',
    'chapter=start:chapter_tags=title',
    '-of',
    'csv=p=0',
    click,
  ]);
  const timing = JSON.parse(
    readFileSync(join(folder, 'v1', v1.folderName, 'data/session/timing.json'), 'utf8'),
  ) as { readonly markers: readonly { readonly seconds: number }[] };
  expect(places.trim()).toBe(`${Math.round((timing.markers[0]?.seconds ?? NaN) * 48_000)},First downbeat`);
  const note = readFileSync(join(folder, 'v1', v1.folderName, 'data/session/cover-note.html'), 'utf8');
  expect(note).toContain('not sound.wav');
  expect(note).toContain('This is no sound file that can be read here');
  expect(note).toContain('converted from 44.1 kHz to 48 kHz');
});

it('a worker killed while it builds: the package is made again, byte for byte the same sound', async () => {
  expect((await call(`/api/sessions/${id}/handovers`, 'POST')).status).toBe(200);
  await until(
    async () =>
      (await viewOf(id)).jobs.some(
        (j) => j.kind === 'package.build' && j.state === 'running' && j.progress > 0,
      ),
    'building to begin',
    30_000,
  ).catch(() => null);
  await killAndWait('worker.mjs');
  const v2 = await built(2);
  expect(v2.state).toBe('done');
  await fetched(v2.id, 'v2');
  const hashes = (name: string, top: string) =>
    parseManifest(readFileSync(join(folder, name, top, 'manifest-sha256.txt'), 'utf8')).entries.filter((e) =>
      e.path.endsWith('.wav'),
    );
  const v1 = (await viewOf(id)).handovers.find((h) => h.number === 1);
  expect(hashes('v2', v2.folderName)).toEqual(hashes('v1', v1?.folderName ?? ''));
});

it('says why nothing can be built', async () => {
  const empty = await newSession('Empty');
  expect(
    (await call<{ fault: { code: string } }>(`/api/sessions/${empty}/handovers`, 'POST')).value.fault.code,
  ).toBe('delivery.no_tracks');
  expect(
    (await call<{ fault: { code: string } }>(`/api/sessions/${empty}/tempo`, 'POST', {})).value.fault.code,
  ).toBe('delivery.no_tracks');
});

it('says so when nothing keeps the time', async () => {
  const quiet = await newSession('Drone');
  await upload(quiet, 'pad.wav', await wavBytes([tone(110, 10)]));
  await settled(quiet);
  await call(`/api/sessions/${quiet}/tempo`, 'POST', {});
  const view = await settled(quiet);
  expect(view.tempo).toBeNull();
  expect(view.jobs.find((j) => j.kind === 'tempo.detect')?.fault?.code).toMatch(/^tempo\./);
});

it('gives raw sound of a track at the session rate, from any place', async () => {
  const odd = tracksInOrder((await viewOf(id)).session).find((t) => t.receivedName === 'odd rate.wav');
  const sound = `recordings/${odd?.recordingId}`;
  const [samples] = await soundOf(sound, 48_000, 480);
  expect(samples).toHaveLength(480);
  samples?.forEach((x, i) =>
    expect(Math.abs(x - 0.5 * Math.sin((2 * Math.PI * 1000 * i) / 48_000))).toBeLessThan(1e-3),
  );
  // Behind its end a sound is short, not wrong; one that is gone spoils nothing for the others.
  expect((await soundOf(sound, 1 << 30, 480))[0]).toHaveLength(0);
  expect(await soundOf('recordings/00000000-0000-4000-8000-000000000000', 0, 10)).toEqual([]);
  for (const bad of [
    { from: -1, count: 10 },
    { from: 0, count: 0 },
    { from: 0, count: 99_999_999 },
    { from: 'x', count: 10 },
  ])
    expect((await call('/api/sound', 'POST', { pieces: [{ sound, ...bad }] })).status).toBe(400);
});

it('the cover note says what became of everything that came, and only what holds', async () => {
  const id = await newSession('Every paper true');
  const kick = await wavBytes([tone(60, 1)]);
  await upload(id, 'Kick in.wav', kick);
  await upload(id, 'Kick in copy.wav', kick);
  await upload(id, 'Bass.wav', await wavBytes([tone(90, 1)]));
  await upload(id, 'LV.wav', await wavBytes([tone(300, 1)]));
  await upload(id, 'letter.wav', new TextEncoder().encode('Dear all, the files come tomorrow.'));
  await settled(id);
  const trackOf = (name: string): Promise<string> =>
    viewOf(id).then(
      (v) =>
        Object.values(v.session.nodes).find((n) => 'receivedName' in n && n.receivedName === name)?.id ?? '',
    );
  const edit = async (label: string, changes: readonly Change[]): Promise<void> => {
    expect((await editOf(id, label, changes)).status).toBe(200);
  };
  await edit('Remove copy', [{ kind: 'track.remove', id: await trackOf('Kick in copy.wav') }]);
  await edit('Remove bass', [{ kind: 'track.remove', id: await trackOf('Bass.wav') }]);
  const vox = await trackOf('LV.wav');
  await edit('Turn over the voice', [{ kind: 'track.change', id: vox, fields: { inverted: true } }]);
  await edit('Call it Seagull', [{ kind: 'track.change', id: vox, fields: { name: 'Seagull' } }]);
  expect((await call(`/api/sessions/${id}/undo`, 'POST', {})).status).toBe(200);
  const asked = await call<{ id: string }>(`/api/sessions/${id}/handovers`, 'POST', {
    contents: 'played',
    folder: null,
  });
  await settled(id);
  const made = (await viewOf(id)).handovers.find((h) => h.id === asked.value.id);
  expect(made?.state).toBe('done');
  const note = readFileSync(join(made?.folderPath ?? '', 'data/session/cover-note.html'), 'utf8');
  const section = (title: string): string => note.split(`<h2>${title}</h2>`)[1]?.split('<h2>')[0] ?? '';
  const absent = section('What did not come across');
  expect(absent).toMatch(/<code>Kick in copy\.wav<\/code>: the same recording as “[^”]+”, which is here/);
  expect(absent).toContain('<code>Bass.wav</code>: taken out of the session; its file is kept.');
  expect(absent).toMatch(/<code>letter\.wav<\/code>: This is no sound file/);
  expect(absent.match(/<li>/g)).toHaveLength(3);
  expect(section('In short')).toContain('1 file has its polarity inverted');
  expect(section('In short')).not.toContain('no processing');
  expect(section('What was done')).toMatch(/Polarity was inverted: /);
  // Undone is undone, and labels of steps are no account of what was done.
  expect(note).not.toContain('Seagull');
  expect(note).not.toContain('Turn over the voice');
  expect(section('What is doubtful')).not.toContain('The same recording twice');
  expect(section('What is doubtful')).toContain('Some files could not be taken');
  // A letter stays a letter: trying again is refused with the reason it had.
  const job = (await viewOf(id)).jobs.find((j) => j.state === 'failed');
  const again = await call<{ fault: { code: string } }>(`/api/jobs/${job?.id ?? ''}/retry`, 'POST');
  expect([again.status, again.value.fault.code]).toEqual([422, 'sound.unknown']);
});
