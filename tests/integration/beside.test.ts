import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { tone, knocks, wavBytes } from '../support/recordings';
import { call, edit as editOf, newSession, settled, until, upload, viewOf } from '../support/server';
import type { Change } from '@/core/session';
import { tracksInOrder } from '@/core/session';

const edit = async (id: string, label: string, changes: readonly Change[]): Promise<number> =>
  (await editOf(id, label, changes)).status;

it('what is no recording is said as such, and a text is kept to be the notes', async () => {
  const id = await newSession('With papers');
  const text = 'Tempo 97, key of D.\r\nThe bridge is free \u0007– please leave it.';
  await upload(id, 'Song/read me.txt', Buffer.from(text));
  await upload(id, 'Song/old.TXT', Buffer.from('Grüße', 'latin1'));
  await upload(id, 'Song/cover.jpg', Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]));
  // What it is shows in its bytes.
  await upload(id, 'Song/Kick.txt', await wavBytes([tone(60, 1)]));
  const view = await settled(id);
  const of = (name: string) => view.recordings.find((r) => r.receivedName.endsWith(name));
  expect(of('read me.txt')?.fault).toEqual({
    code: 'file.no_recording',
    text: 'Tempo 97, key of D.\nThe bridge is free – please leave it.',
  });
  expect(of('old.TXT')?.fault).toMatchObject({ text: 'Grüße' });
  expect(of('cover.jpg')?.fault).toEqual({ code: 'file.no_recording' });
  expect(of('Kick.txt')?.state).toBe('ready');
  expect(view.jobs.filter((j) => j.state === 'failed')).toEqual([]);
  expect((await call(`/api/recordings/${of('cover.jpg')?.id}/retry`, 'POST')).status).toBe(422);
  expect((await call(`/api/recordings/${of('cover.jpg')?.id}`, 'DELETE')).status).toBe(200);
});

it('a rate chosen before anything arrives stays; undone, the files decide again', async () => {
  const id = await newSession('At 48');
  expect(await edit(id, 'Session at 48 kHz', [{ kind: 'session.rate', sampleRateHz: 48_000 }])).toBe(200);
  await upload(id, 'Kick.wav', await wavBytes([tone(60, 1, 0.3, 44_100)], { rateHz: 44_100 }));
  await upload(id, 'Bass.wav', await wavBytes([tone(80, 1, 0.3, 44_100)], { rateHz: 44_100 }));
  const view = await settled(id);
  expect(view.session.sampleRateHz).toBe(48_000);
  expect(view.recordings.map((r) => r.convertedToHz)).toEqual([48_000, 48_000]);
  const other = await newSession('As they come');
  await edit(other, 'Session at 96 kHz', [{ kind: 'session.rate', sampleRateHz: 96_000 }]);
  await call(`/api/sessions/${other}/undo`, 'POST');
  await upload(other, 'Kick.wav', await wavBytes([tone(60, 1, 0.3, 44_100)], { rateHz: 44_100 }));
  expect((await settled(other)).session.sampleRateHz).toBe(44_100);
});

it('the tempo is looked for by itself once the tracks are sorted, and only once', async () => {
  const id = await newSession('Sorted');
  const beats = Array.from({ length: 60 }, (_, i) => 1 + 0.6 * i);
  const half = (k: number): number[] => beats.filter((_, i) => i % 2 === k);
  await upload(id, 'aa.wav', await wavBytes([knocks(half(0), 38, 60)]));
  await upload(id, 'bb.wav', await wavBytes([knocks(half(1), 38, 210)]));
  await upload(id, 'cc.wav', await wavBytes([knocks(beats, 38, 5000)]));
  // Names nothing can be read from: they stay doubtful, and do not hold it up.
  for (const n of [1, 2, 3, 4]) await upload(id, `zz ${n}.wav`, await wavBytes([tone(300 + n, 38, 0.02)]));
  const [a, b, c] = tracksInOrder((await settled(id)).session);
  const kinds = ['kick', 'snare', 'hihat'];
  const detections = async (): Promise<number> =>
    (await viewOf(id)).jobs.filter((j) => j.kind === 'tempo.detect').length;
  expect(await detections()).toBe(0);
  const sort = [a, b, c].map((t, i): Change => ({
    kind: 'track.change',
    id: t?.id ?? '',
    fields: { family: 'drums', part: kinds[i] ?? null },
  }));
  expect(await edit(id, 'Apply house style to 3', sort)).toBe(200);
  const found = await until(async () => (await viewOf(id)).tempo, 'the tempo', 60_000);
  expect((found.result as { bpm: number }).bpm).toBeCloseTo(100, 1);
  await edit(id, 'Again', sort);
  expect((await settled(id)).jobs.filter((j) => j.kind === 'tempo.detect')).toHaveLength(1);
});

it('the cover note says why a recording is absent: no sound in it; and that a text became the notes', async () => {
  const id = await newSession('Absent');
  await upload(id, 'Kick.wav', await wavBytes([tone(60, 1)]));
  await upload(id, 'Spare.wav', await wavBytes([new Float32Array(48_000)]));
  await upload(id, 'letter.txt', Buffer.from('Please keep the hiss.'));
  const view = await settled(id);
  const spare = tracksInOrder(view.session).find((t) => t.receivedName === 'Spare.wav');
  expect(
    await edit(id, 'Tidy up', [
      { kind: 'track.remove', id: spare?.id ?? '' },
      { kind: 'session.describe', notes: 'Please keep the hiss.' },
    ]),
  ).toBe(200);
  expect((await call(`/api/sessions/${id}/handovers`, 'POST', {})).status).toBe(200);
  const done = await until(
    async () => (await viewOf(id)).handovers.find((h) => h.state === 'done'),
    'the package',
    60_000,
  );
  const folder = join(process.env.FERNMOSS_DATA ?? '', 'packages', id);
  const note = readdirSync(folder, { recursive: true }).find((f) => String(f).endsWith('cover-note.html'));
  const text = readFileSync(join(folder, String(note)), 'utf8');
  expect(done.number).toBe(1);
  expect(text).toContain('<code>Spare.wav</code>: there is no sound in it; taken out.');
  expect(text).toContain('<code>letter.txt</code>: a text; it stands above, as the notes.');
}, 90_000);
