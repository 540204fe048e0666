import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Upload } from '@tus/server';
import type { RecordingView } from '@/contracts';
import { faultText } from '@/contracts';
import { isTrack, keepSamplesEdits, tracksInOrder } from '@/core/session';
import { createRandom } from '@/core/units';
import { db, RecordingModel } from '@/server/db';
import { receive } from '@/server/services';
import { UploadNotes } from '@/server/services/open-uploads';
import { madeSound } from '../../bench/heard/synth';
import { tone, wavBytes } from '../support/recordings';
import {
  beginUpload,
  call,
  deleteSession,
  editsFor,
  killAndWait,
  newSession,
  offsetOf,
  pidOf,
  sendPart,
  settled,
  soundOf,
  until,
  upload,
  viewOf,
} from '../support/server';

const ascii = (text: string): number[] => [...Buffer.from(text, 'latin1')];
const u32 = (n: number): number[] => [n & 255, (n >>> 8) & 255, (n >>> 16) & 255, (n >>> 24) & 255];
const header = (options: {
  tag?: number;
  channels?: number;
  rate?: number;
  bits?: number;
  dataSize: number;
}): number[] => {
  const { tag = 1, channels = 1, rate = 48_000, bits = 16 } = options;
  return [
    ...ascii('RIFF'),
    ...u32(0),
    ...ascii('WAVEfmt '),
    ...u32(16),
    tag,
    0,
    channels,
    0,
    ...u32(rate),
    ...u32((rate * channels * bits) / 8),
    (channels * bits) / 8,
    0,
    bits,
    0,
    ...ascii('data'),
    ...u32(options.dataSize),
  ];
};
const noise = (bytes: number): number[] => {
  const random = createRandom(3);
  return Array.from({ length: bytes }, () => Math.floor(random() * 256));
};
const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const byName = (list: readonly RecordingView[], name: string): RecordingView =>
  list.find((r) => r.receivedName === name) as RecordingView;
const blobPath = (hash: string): string =>
  join(process.env.FERNMOSS_DATA ?? '', 'blobs', hash.slice(0, 2), hash);

describe('what arrives broken', () => {
  it('is said beside the file; the rest goes on; nothing is lost', async () => {
    const id = await newSession('Broken things');
    const files: Record<string, Uint8Array> = {
      'good.wav': await wavBytes([tone(440, 0.5)]),
      'empty.wav': new Uint8Array(0),
      'letter.wav': Uint8Array.from(ascii('Dear mixer, the files are in the other mail. '.repeat(20))),
      'truncated.wav': (await wavBytes([tone(440, 0.5), tone(441, 0.5)])).subarray(0, 40_001),
      'size 0.wav': Uint8Array.from([...header({ dataSize: 0 }), ...noise(9600)]),
      'size ffffffff.wav': Uint8Array.from([...header({ dataSize: 0xffffffff }), ...noise(9601)]),
      'adpcm.wav': Uint8Array.from([...header({ tag: 2, bits: 4, dataSize: 512 }), ...noise(512)]),
      'only a header.wav': Uint8Array.from(header({ dataSize: 0 })),
      '33 channels.wav': Uint8Array.from([...header({ channels: 33, dataSize: 660 }), ...noise(660)]),
      'also good.wav': await wavBytes([tone(220, 0.5)], { bitDepth: 32 }),
    };
    for (const [name, bytes] of Object.entries(files)) await upload(id, name, bytes);
    const { recordings, session } = await settled(id);
    const state = (name: string) => {
      const r = byName(recordings, name);
      return r.fault ? r.fault.code : [r.state, r.lengthFrames, ...r.warnings.map((w) => w.code)];
    };
    expect(Object.fromEntries(Object.keys(files).map((n) => [n, state(n)]))).toEqual({
      'good.wav': ['ready', 24_000],
      'empty.wav': 'file.empty',
      'letter.wav': 'sound.unknown',
      'truncated.wav': ['ready', Math.floor((40_001 - 80) / 6), 'sound.truncated'],
      'size 0.wav': ['ready', 4800, 'sound.size_missing'],
      'size ffffffff.wav': ['ready', 4800, 'sound.size_missing'],
      'adpcm.wav': 'decoder.failed',
      'only a header.wav': 'sound.no_audio',
      '33 channels.wav': 'sound.unsupported_channels',
      'also good.wav': ['ready', 24_000],
    });
    expect(Object.values(session.nodes).filter(isTrack)).toHaveLength(5);
    for (const r of recordings.filter((x) => x.fault)) expect(faultText(r.fault!)).toMatch(/\. ?\w?/);
    // What could not be used leaves no bytes behind; what could is there under its hash.
    for (const [name, bytes] of Object.entries(files))
      expect(existsSync(blobPath(sha(bytes)))).toBe(byName(recordings, name).state === 'ready');
  });

  it('names are data: paths, quotes, emoji, control characters, 300 characters', async () => {
    const id = await newSession('Odd names');
    const bytes = await wavBytes([tone(330, 0.2)]);
    const before = readdirSync(process.env.FERNMOSS_DATA ?? '').sort();
    const given = [
      '../../../etc/kick.wav',
      'C:\\snare\\..\\top.wav',
      `"'; drop table sessions; --.wav`,
      '🥁 Bässe ´é.wav',
      'bell\u0007\u0000\u202egnp.wav',
      `${'x'.repeat(300)}.wav`,
      '.wav',
      '/',
    ];
    for (const name of given) await upload(id, name, bytes);
    const { recordings, session } = await settled(id);
    expect(recordings).toHaveLength(given.length);
    for (const r of recordings) {
      expect(r.state).toBe('ready');
      expect(r.receivedName.length).toBeGreaterThan(0);
      expect(Array.from(r.receivedName).length).toBeLessThanOrEqual(200);
      expect(r.receivedName).not.toMatch(/[\u0000-\u001f\u202e]/);
    }
    for (const t of Object.values(session.nodes).filter(isTrack)) expect(t.name.trim()).not.toBe('');
    expect(readdirSync(process.env.FERNMOSS_DATA ?? '').sort()).toEqual(before);
    expect(existsSync('/etc/kick.wav')).toBe(false);
  });

  it('the same content twice is stored once and marked; the same name twice makes two tracks', async () => {
    const id = await newSession('Twice');
    const one = await wavBytes([tone(500, 0.3)]);
    await upload(id, 'a.wav', one);
    await settled(id);
    await upload(id, 'b.wav', one);
    await upload(id, 'a.wav', await wavBytes([tone(501, 0.3)]));
    const { recordings, session } = await settled(id);
    expect(byName(recordings, 'b.wav').sameAs).toBe('a.wav');
    expect(recordings.filter((r) => r.receivedName === 'a.wav').map((r) => r.sameAs)).toEqual([null, null]);
    expect(Object.values(session.nodes).filter(isTrack)).toHaveLength(3);
  });
});

it('what was heard before is taken over for the same content, and heard again where less was asked of it then', async () => {
  const kick = await wavBytes([madeSound('kick', 6, createRandom(5))]);
  const heardIn = async (name: string) => {
    const id = await newSession(name);
    await upload(id, 'Audio 1.wav', kick);
    await settled(id);
    await until(async () => (await viewOf(id)).recordings.every((r) => r.listened), 'heard');
    return (await viewOf(id)).recordings[0] as RecordingView;
  };
  const first = await heardIn('First of two');
  expect(first.heard?.as?.sounds?.[0]?.sound).toBe('kick');
  const before = { click: null, tail: null, as: { kind: 'plucked', confidence: 0.99 } };
  await db().transaction((transaction) =>
    RecordingModel.update({ heard: before }, { where: { id: first.id }, transaction }),
  );
  expect((await heardIn('Second of two')).heard).toEqual(first.heard);
});

it('the session takes the rate of the majority; the others are converted and marked', async () => {
  const id = await newSession('Rates');
  await upload(id, 'odd.wav', await wavBytes([tone(1000, 1, 0.5, 44_100)], { rateHz: 44_100 }));
  await upload(id, 'x.wav', await wavBytes([tone(1000, 1)]));
  await upload(id, 'y.wav', await wavBytes([tone(900, 1)]));
  const view = await settled(id);
  expect(view.session.sampleRateHz).toBe(48_000);
  expect(byName(view.recordings, 'odd.wav')).toMatchObject({
    sampleRateHz: 44_100,
    convertedToHz: 48_000,
    sessionFrames: 48_000,
  });
  expect(byName(view.recordings, 'x.wav').convertedToHz).toBeNull();
});

it('samples kept at another rate: the same samples, at the session’s speed; played and handed over so, and taken back', async () => {
  const id = await newSession('Kept');
  const odd = tone(1000, 1, 0.5, 44_100);
  await upload(id, 'odd.wav', await wavBytes([odd], { rateHz: 44_100, bitDepth: 24 }));
  for (const name of ['x.wav', 'y.wav'])
    await upload(id, name, await wavBytes([tone(name === 'x.wav' ? 700 : 900, 1)]));
  const { session, recordings } = await settled(id);
  const recording = byName(recordings, 'odd.wav');
  const edit = async (keep: boolean): Promise<void> => {
    const now = await viewOf(id);
    expect(
      (
        await call(`/api/sessions/${id}/edits`, 'POST', {
          baseRevision: now.revision,
          label: 'Keep',
          edits: editsFor(now.session, keepSamplesEdits(now.session, new Set([recording.id]), keep)),
        })
      ).status,
    ).toBe(200);
  };
  await edit(true);
  const kept = byName((await settled(id)).recordings, 'odd.wav');
  expect(kept).toMatchObject({ passingHz: 48_000, sessionFrames: 44_100, convertedToHz: 48_000 });
  await new Promise((done) => {
    setTimeout(done, 3100);
  });
  const [played = new Float32Array()] = await soundOf(`recordings/${recording.id}`, 0, 44_100);
  expect(played).toHaveLength(44_100);
  expect(odd.reduce((m, x, i) => Math.max(m, Math.abs(x - (played[i] ?? 9))), 0)).toBeLessThan(2 ** -23);
  await call(`/api/sessions/${id}/handovers`, 'POST', { contents: 'played' });
  const made = await until(
    async () => (await viewOf(id)).handovers.find((h) => h.state !== 'building'),
    'a package',
  );
  expect(made.fault).toBeNull();
  expect(readFileSync(join(made.folderPath ?? '', 'data/session/cover-note.html'), 'utf8')).toContain(
    'odd keeps its samples and plays 1.0884 times as fast as it was recorded, +1.47 semitones',
  );
  await edit(false);
  expect(byName((await settled(id)).recordings, 'odd.wav')).toMatchObject({
    passingHz: 44_100,
    sessionFrames: 48_000,
    convertedToHz: 48_000,
  });
  expect(session.sampleRateHz).toBe(48_000);
});

it('an upload that broke off goes on where it was, over a killed web process too', async () => {
  const id = await newSession('Broken off');
  const bytes = await wavBytes([tone(123, 3)]);
  const address = await beginUpload(id, 'long.wav', bytes.length);
  const half = Math.floor(bytes.length / 2);
  await sendPart(address, bytes.subarray(0, half), 0);
  expect((await viewOf(id)).recordings).toEqual([]);
  await killAndWait('web.mjs');
  expect(await offsetOf(address)).toBe(half);
  await sendPart(address, bytes.subarray(half), half);
  const { recordings } = await settled(id);
  expect(recordings[0]).toMatchObject({ state: 'ready', sha256: sha(bytes) });
});

it('an upload whose last answer was lost is found whole: nothing is sent or received twice', async () => {
  const id = await newSession('Lost answer');
  const bytes = await wavBytes([tone(124, 1)]);
  const address = await beginUpload(id, 'once.wav', bytes.length);
  await sendPart(address, bytes, 0);
  expect(await offsetOf(address)).toBe(bytes.length);
  await settled(id);
  expect(await offsetOf(address)).toBe(bytes.length);
  expect((await viewOf(id)).recordings).toHaveLength(1);
});

it('a file that two processes see whole in the same moment is received once, and neither fails', async () => {
  const id = await newSession('At once');
  for (let round = 0; round < 5; round++) {
    const uploadId = randomUUID();
    const path = join(process.env.FERNMOSS_DATA ?? '', 'uploads', uploadId);
    const bytes = await wavBytes([tone(300 + round, 0.2)]);
    writeFileSync(path, bytes);
    await expect(
      Promise.all(
        Array.from({ length: 6 }, () => receive(id, `once ${round}.wav`, path, bytes.length, uploadId)),
      ),
    ).resolves.toHaveLength(6);
  }
  const { recordings } = await settled(id);
  expect(recordings.map((r) => [r.receivedName, r.state])).toEqual(
    Array.from({ length: 5 }, (_, round) => [`once ${round}.wav`, 'ready']),
  );
});

it('an upload whose process was killed between the last byte and the receipt is received all the same', async () => {
  const id = await newSession('Killed at the end');
  const bytes = await wavBytes([tone(125, 1)]);
  const address = await beginUpload(id, 'whole.wav', bytes.length);
  // As it lies on the disk at that moment: all bytes there, nobody told.
  writeFileSync(join(process.env.FERNMOSS_DATA ?? '', 'uploads', address.split('/').at(-1) ?? ''), bytes);
  expect(await offsetOf(address)).toBe(bytes.length);
  expect((await settled(id)).recordings[0]).toMatchObject({
    state: 'ready',
    receivedName: 'whole.wav',
    sha256: sha(bytes),
  });
});

it('notes of uploads that cannot be read hinder nobody: others are sent on, the worker starts, and they go', async () => {
  const id = await newSession('Half a note');
  const bytes = await wavBytes([tone(126, 1)]);
  const folder = join(process.env.FERNMOSS_DATA ?? '', 'uploads');
  const whole = await beginUpload(id, 'whole.wav', bytes.length);
  const note = readFileSync(join(folder, `${whole.split('/').at(-1) ?? ''}.json`), 'utf8');
  const ids = ['', note.slice(0, 40), 'null', '[]', '{"size":"many"}', '{"metadata":7}'].map((text) => {
    const broken = randomUUID();
    writeFileSync(join(folder, broken), '');
    writeFileSync(join(folder, `${broken}.json`), text);
    return broken;
  });
  await upload(id, 'beside.wav', bytes);
  await sendPart(whole, bytes, 0);
  await killAndWait('worker.mjs');
  const { recordings } = await settled(id);
  expect(recordings.map((r) => [r.receivedName, r.state])).toEqual([
    ['beside.wav', 'ready'],
    ['whole.wav', 'ready'],
  ]);
  for (const broken of ids) {
    const there = await fetch(`${whole.slice(0, whole.lastIndexOf('/'))}/${broken}`, {
      method: 'HEAD',
      headers: { 'tus-resumable': '1.0.0' },
    });
    expect(there.status).toBe(404);
    expect(existsSync(join(folder, `${broken}.json`))).toBe(false);
  }
}, 60_000);

it('a note of an upload is never seen half, however often it is read while it is written', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-notes-'));
  const notes = new UploadNotes(folder);
  const id = randomUUID();
  const written = (size: number): Upload =>
    ({ id, size, metadata: { sessionId: id, name: 'long '.repeat(8000) } }) as unknown as Upload;
  await notes.set(id, written(0));
  let isOver = false;
  const writing = (async () => {
    for (let size = 1; size <= 300; size++) await notes.set(id, written(size));
    isOver = true;
  })();
  const seen: unknown[] = [];
  while (!isOver) seen.push((await notes.get(id))?.size);
  await writing;
  expect(seen.length).toBeGreaterThan(100);
  expect(seen.filter((size) => typeof size !== 'number')).toEqual([]);
  rmSync(folder, { recursive: true });
});

it('tracks stand in the order of the recordings, however long reading one takes', async () => {
  const id = await newSession('Long before short');
  const files = [
    await wavBytes([tone(100, 150)]),
    await wavBytes([tone(200, 1)]),
    await wavBytes([tone(300, 1)]),
  ];
  for (const [i, bytes] of files.entries()) await upload(id, `t${3 - i}.wav`, bytes);
  const { session, recordings } = await settled(id);
  expect(tracksInOrder(session).map((t) => t.name)).toEqual(['t3', 't2', 't1']);
  expect(recordings.map((r) => r.receivedName)).toEqual(['t3.wav', 't2.wav', 't1.wav']);
});

it('a worker killed in the middle of arrivals loses none and doubles none', async () => {
  const id = await newSession('Killed worker');
  const files = await Promise.all([1, 2, 3, 4, 5, 6].map((n) => wavBytes([tone(100 * n, 20)])));
  for (const [i, bytes] of files.entries()) await upload(id, `t${i}.wav`, bytes);
  await until(async () => (await viewOf(id)).jobs.some((j) => j.state === 'running'), 'a job to run');
  await killAndWait('worker.mjs');
  const view = await settled(id);
  expect(view.recordings.map((r) => r.sha256).sort()).toEqual(files.map(sha).sort());
  expect(Object.values(view.session.nodes).filter(isTrack)).toHaveLength(6);
});

it('a cancelled arrival says so and can be tried again; what cannot be used can be taken off the list', async () => {
  const id = await newSession('Cancelled');
  const bytes = await wavBytes([tone(222, 2)]);
  // The worker stands still meanwhile, so that the call comes first on any machine.
  const worker = pidOf('worker.mjs') as number;
  process.kill(worker, 'SIGSTOP');
  try {
    await upload(id, 'withdrawn.wav', bytes);
    const job = await until(
      async () => (await viewOf(id)).jobs.find((j) => j.kind === 'recording.arrive'),
      'its job',
    );
    await call(`/api/jobs/${job.id}/cancel`, 'POST');
  } finally {
    process.kill(worker, 'SIGCONT');
  }
  const { recordings } = await settled(id);
  expect(recordings[0]?.fault?.code).toBe('job.cancelled');
  expect((await call(`/api/recordings/${recordings[0]?.id}/retry`, 'POST')).status).toBe(200);
  expect((await settled(id)).recordings[0]).toMatchObject({ state: 'ready', sha256: sha(bytes) });
  expect((await call(`/api/recordings/${recordings[0]?.id}/retry`, 'POST')).status).toBe(404);
  expect((await call(`/api/recordings/${recordings[0]?.id}`, 'DELETE')).status).toBe(404);

  await upload(id, 'letter.wav', Uint8Array.from(ascii('Dear mixer, no sound today.')));
  const letter = byName((await settled(id)).recordings, 'letter.wav');
  expect(
    (await call<{ fault: { code: string } }>(`/api/recordings/${letter.id}/retry`, 'POST')).value.fault.code,
  ).toBe('file.unreadable');
  expect((await call(`/api/recordings/${letter.id}`, 'DELETE')).status).toBe(200);
  expect((await viewOf(id)).recordings).toHaveLength(1);
});

it('a cancelled conversion is asked for again by the handover', async () => {
  const id = await newSession('Cancelled conversion');
  await upload(id, 'x.wav', await wavBytes([tone(1000, 1)]));
  await upload(id, 'y.wav', await wavBytes([tone(900, 1)]));
  await settled(id);
  await upload(id, 'odd.wav', await wavBytes([tone(1000, 90, 0.5, 44_100)], { rateHz: 44_100 }));
  const job = await until(
    async () => (await viewOf(id)).jobs.find((j) => j.kind === 'recording.convert'),
    'the conversion',
  );
  await call(`/api/jobs/${job.id}/cancel`, 'POST');
  const stopped = await settled(id);
  if (byName(stopped.recordings, 'odd.wav').convertedToHz === null)
    expect(
      (await call<{ fault: { code: string } }>(`/api/sessions/${id}/handovers`, 'POST')).value.fault.code,
    ).toBe('delivery.not_ready');
  await settled(id);
  expect((await call(`/api/sessions/${id}/handovers`, 'POST')).status).toBe(200);
  expect((await settled(id)).handovers[0]?.state).toBe('done');
});

it('uploads to no session, of no length and of absurd length are refused in words', async () => {
  await expect(beginUpload('00000000-0000-4000-8000-000000000000', 'a.wav', 10)).rejects.toThrow(
    /404 .*session.not_found/,
  );
  await expect(beginUpload('../x', 'a.wav', 10)).rejects.toThrow(/404/);
  await expect(beginUpload(await newSession('Huge'), 'a.wav', 2 ** 50)).rejects.toThrow(/413|507/);
});

it('deleting a session frees its bytes, but not those another one uses', async () => {
  const shared = await wavBytes([tone(611, 0.4)]);
  const own = await wavBytes([tone(612, 0.4)]);
  const [a, b] = [await newSession('A'), await newSession('B')];
  await upload(a, 's.wav', shared);
  await upload(a, 'o.wav', own);
  await upload(b, 's.wav', shared);
  await settled(a);
  await settled(b);
  expect(await deleteSession(a)).toBe(200);
  expect((await call(`/api/sessions/${a}`)).status).toBe(404);
  expect([existsSync(blobPath(sha(own))), existsSync(blobPath(sha(shared)))]).toEqual([false, true]);
  expect((await viewOf(b)).recordings[0]?.state).toBe('ready');
});

describe('uploads that end otherwise', () => {
  const tus = { 'tus-resumable': '1.0.0' };
  it('once its last byte is acknowledged an upload cannot be taken back', async () => {
    const id = await newSession('Taken back');
    const bytes = await wavBytes([tone(440, 0.5)]);
    const address = await beginUpload(id, 'kept.wav', bytes.length);
    await sendPart(address, bytes.subarray(0, 1000), 0);
    await sendPart(address, bytes.subarray(1000), 1000);
    expect((await fetch(address, { method: 'DELETE', headers: tus })).status).toBe(403);
    await settled(id);
    expect((await viewOf(id)).recordings.map((r) => r.state)).toEqual(['ready']);
    // One that is not whole can.
    const other = await beginUpload(id, 'gone.wav', bytes.length);
    await sendPart(other, bytes.subarray(0, 1000), 0);
    expect((await fetch(other, { method: 'DELETE', headers: tus })).status).toBe(204);
  });
  it('bytes of a deleted session go, whole or not', async () => {
    const id = await newSession('Deleted in the middle');
    const bytes = await wavBytes([tone(440, 0.5)]);
    const begun = await beginUpload(id, 'half.wav', bytes.length);
    await sendPart(begun, bytes.subarray(0, 1000), 0);
    const whole = await beginUpload(id, 'whole.wav', bytes.length);
    await sendPart(whole, bytes, 0);
    await deleteSession(id);
    const left = readdirSync(join(process.env.FERNMOSS_DATA ?? '', 'uploads'));
    for (const address of [begun, whole])
      expect(left.filter((name) => name.startsWith(address.split('/').at(-1) ?? '-'))).toEqual([]);
  });
  it('room is kept for what was announced', async () => {
    const id = await newSession('Announced');
    const { freeBytes } = await viewOf(id);
    // Two of them do not fit, though either would.
    const size = Math.min(60 * 2 ** 30, Math.floor(freeBytes * 0.45));
    const open: string[] = [];
    let refused = 0;
    for (let n = 0; n < Math.ceil(freeBytes / size) + 1 && refused === 0; n++)
      await beginUpload(id, `large ${n}.wav`, size).then(
        (address) => open.push(address),
        (error: Error) => {
          expect(error.message).toContain('store.disk_full');
          refused++;
        },
      );
    for (const address of open) await fetch(address, { method: 'DELETE', headers: tus });
    expect([open.length > 0, refused]).toEqual([true, 1]);
  });
});
