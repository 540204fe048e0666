import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ZipFile } from 'yazl';
import type { RecordingView } from '@/contracts';
import { isTrack } from '@/core/session';
import { fernmossJson, run } from '../support/programs';
import { knocks, tone, wavBytes, writeWav } from '../support/recordings';
import { newSession, settled, soundOf, upload } from '../support/server';

// Files of the containers a delivery may come in, written by ffmpeg (an independent writer); what they hold is known.
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-containers-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const SECONDS = 1.5;
const left = tone(440, SECONDS, 0.4);
const right = tone(660, SECONDS, 0.2);
const make = (name: string, args: readonly string[], from = 'source.wav'): string => {
  run('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', join(folder, from), ...args, join(folder, name)]);
  return join(folder, name);
};
const farthest = (a: Float32Array, b: Float32Array): number =>
  a.reduce((m, x, i) => Math.max(m, Math.abs(x - (b[i] ?? 9))), 0);

interface Case {
  readonly name: string;
  readonly args: readonly string[];
  readonly container: string;
  readonly bits: number;
}
/** Sample for sample the same as what was written. */
const EXACT: readonly Case[] = [
  { name: 'a16.aiff', args: ['-c:a', 'pcm_s16be'], container: 'aiff', bits: 16 },
  { name: 'a24.aif', args: ['-c:a', 'pcm_s24be', '-f', 'aiff'], container: 'aiff', bits: 24 },
  { name: 'a32f.aifc', args: ['-c:a', 'pcm_f32be', '-f', 'aiff'], container: 'aiff', bits: 32 },
  { name: 'sowt.aifc', args: ['-c:a', 'pcm_s16le', '-f', 'aiff'], container: 'aiff', bits: 16 },
  { name: 'f16.flac', args: ['-c:a', 'flac', '-sample_fmt', 's16'], container: 'flac', bits: 16 },
  { name: 'f24.flac', args: ['-c:a', 'flac', '-sample_fmt', 's32'], container: 'flac', bits: 24 },
  { name: 'alac.m4a', args: ['-c:a', 'alac', '-sample_fmt', 's16p'], container: 'mp4', bits: 16 },
  { name: 'pcm.caf', args: ['-c:a', 'pcm_s24le'], container: 'caf', bits: 24 },
  { name: 'pcm.w64', args: ['-c:a', 'pcm_s24le'], container: 'w64', bits: 24 },
  { name: 'f64.wav', args: ['-c:a', 'pcm_f64le'], container: 'wav', bits: 64 },
];
const LOSSY: readonly Omit<Case, 'bits'>[] = [
  { name: 'm.mp3', args: ['-c:a', 'libmp3lame', '-b:a', '192k'], container: 'mp3' },
  { name: 'a.m4a', args: ['-c:a', 'aac', '-b:a', '192k'], container: 'mp4' },
  { name: 'a.aac', args: ['-c:a', 'aac', '-b:a', '192k'], container: 'aac' },
  { name: 'v.ogg', args: ['-c:a', 'libvorbis', '-q:a', '6'], container: 'ogg' },
  { name: 'o.opus', args: ['-c:a', 'libopus', '-b:a', '160k'], container: 'ogg' },
];

beforeAll(async () => {
  await writeWav(join(folder, 'source.wav'), [left, right], { bitDepth: 24 });
});

it('takes every container in; what is lossless is the same sample for sample, what is not is said to be lossy', async () => {
  const id = await newSession('Containers');
  for (const c of [...EXACT, ...LOSSY]) await upload(id, c.name, readFileSync(make(c.name, c.args)));
  const { recordings } = await settled(id);
  const of = (name: string): RecordingView =>
    recordings.find((r) => r.receivedName === name) as RecordingView;
  for (const c of EXACT) {
    const r = of(c.name);
    expect([c.name, r.state, r.fault, r.container, r.lossy, r.bitDepth, r.channels, r.lengthFrames]).toEqual([
      c.name,
      'ready',
      null,
      c.container,
      false,
      c.bits,
      2,
      left.length,
    ]);
    const heard = await soundOf(`recordings/${r.id}`, 0, left.length);
    const step = c.bits === 16 ? 1.01 * 2 ** -15 : 2 ** -22;
    expect(farthest(left, heard[0] as Float32Array)).toBeLessThan(step);
    expect(farthest(right, heard[1] as Float32Array)).toBeLessThan(step);
  }
  for (const c of LOSSY) {
    const r = of(c.name);
    expect([c.name, r.state, r.container, r.lossy, r.channels]).toEqual([
      c.name,
      'ready',
      c.container,
      true,
      2,
    ]);
    expect(Math.abs((r.lengthFrames as number) / (r.sampleRateHz as number) - SECONDS)).toBeLessThan(0.1);
  }
});

it('what is lossy begins where it began: a knock is heard at its place within a millisecond', async () => {
  const id = await newSession('In place');
  const at = [0.5, 1.25];
  await writeWav(join(folder, 'knock.wav'), [knocks(at, 2, 900), knocks(at, 2, 900)], { bitDepth: 24 });
  for (const c of LOSSY)
    await upload(id, `knock ${c.name}`, readFileSync(make(`knock-${c.name}`, c.args, 'knock.wav')));
  const { recordings } = await settled(id);
  for (const r of recordings) {
    const [heard] = await soundOf(`recordings/${r.id}`, 0, 2 * (r.sampleRateHz ?? 0));
    const rate = r.sampleRateHz as number;
    const loud = (heard as Float32Array).findIndex((x) => Math.abs(x) > 0.2);
    const wanted = knocks(at, 2, 900).findIndex((x) => Math.abs(x) > 0.2) / 48_000;
    expect([r.receivedName, Math.abs(loud / rate - wanted) < 0.001]).toEqual([r.receivedName, true]);
  }
});

/** Names of channels as recorders write them (iXML open specification). */
function namesChunk(names: readonly string[]): Buffer {
  const xml = `<BWFXML><TRACK_LIST>${names.map((n, i) => `<TRACK><INTERLEAVE_INDEX>${i + 1}</INTERLEAVE_INDEX><NAME>${n}</NAME></TRACK>`).join('')}</TRACK_LIST></BWFXML>`;
  const body = Buffer.from(xml.padEnd(xml.length + (xml.length % 2)), 'utf8');
  const size = Buffer.alloc(4);
  size.writeUInt32LE(body.length);
  return Buffer.concat([Buffer.from('iXML'), size, body]);
}

it('two channels with unlike names are two tracks, two sides of one stay one', async () => {
  const id = await newSession('Two in one');
  const plain = await wavBytes([tone(200, 0.5, 0.2), tone(300, 0.5, 0.2)]);
  const named: Readonly<Record<string, readonly string[]>> = {
    'day 1.wav': ['Boom', 'Lavalier'],
    'ovh.wav': ['OVH L', 'OVH R'],
    'desk.wav': ['Track 1', 'Track 2'],
    'keys.wav': ['Left', 'Right'],
  };
  for (const [name, names] of Object.entries(named))
    await upload(id, name, Buffer.concat([plain, namesChunk(names)]));
  const { recordings } = await settled(id);
  expect(recordings.map((r) => [r.receivedName, r.channels]).sort()).toEqual([
    ['day 1.wav/Boom', 1],
    ['day 1.wav/Lavalier', 1],
    ['desk.wav', 2],
    ['keys.wav', 2],
    ['ovh.wav', 2],
  ]);
});

it('takes files of many channels apart into one track a channel, bit for bit, named as the recorder did', async () => {
  const id = await newSession('Many channels');
  const channels = [0, 1, 2, 3].map((n) => tone(200 + 100 * n, 0.5, 0.1 + 0.1 * n));
  const plain = await wavBytes(channels);
  await upload(
    id,
    'Reel 1.wav',
    Buffer.concat([plain, namesChunk(['Kick In', 'Snare Top', 'Rack / Floor', 'Room'])]),
  );
  await upload(id, 'Reel 2.wav', plain);
  await upload(
    id,
    'Reel 3.flac',
    readFileSync(
      (writeFileSync(join(folder, 'four.wav'), plain),
      make('four.flac', ['-c:a', 'flac', '-sample_fmt', 's32'], 'four.wav')),
    ),
  );
  const { recordings, session } = await settled(id);
  expect(recordings.map((r) => [r.receivedName, r.state, r.channels, r.channelIndex]).sort()).toEqual(
    [
      ['Reel 1.wav/Kick In', 'ready', 1, 0],
      ['Reel 1.wav/Rack - Floor', 'ready', 1, 2],
      ['Reel 1.wav/Room', 'ready', 1, 3],
      ['Reel 1.wav/Snare Top', 'ready', 1, 1],
      ...[1, 2, 3, 4].map((n) => [`Reel 2 channel ${n}.wav`, 'ready', 1, n - 1]),
      ...[
        ['front left', 0],
        ['front right', 1],
        ['centre', 2],
        ['back centre', 3],
      ].map(([n, i]) => [`Reel 3 ${n}.flac`, 'ready', 1, i]),
    ].sort(),
  );
  expect(
    Object.values(session.nodes)
      .filter(isTrack)
      .map((t) => t.name),
  ).toEqual(expect.arrayContaining(['Kick In', 'Snare Top', 'Reel 2 channel 3']));
  for (const r of recordings)
    expect(
      farthest(
        channels[r.channelIndex as number] as Float32Array,
        (await soundOf(`recordings/${r.id}`, 0, 24_000))[0] as Float32Array,
      ),
    ).toBeLessThan(2 ** -22);
});

/** A ZIP of files; `stored` ones are not packed. */
async function zipOf(files: Readonly<Record<string, Uint8Array>>): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [name, bytes] of Object.entries(files)) zip.addBuffer(Buffer.from(bytes), name);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

it('takes archives apart, also archives in archives; what is damaged in them is named and the rest goes on', async () => {
  const id = await newSession('Archives');
  const sound = await wavBytes([tone(300, 0.3)]);
  const inner = await zipOf({ 'Bass/DI.wav': sound });
  const whole = await zipOf({
    'Low Water/Kick.wav': await wavBytes([tone(60, 0.3)]),
    'Low Water/Snare.wav': await wavBytes([tone(200, 0.3)]),
    '__MACOSX/Low Water/._Kick.wav': sound,
    'Low Water/.DS_Store': sound,
    'Low Water/more.zip': inner,
    'Low Water/notes.txt': Buffer.from('played by the quay'),
  });
  await upload(id, 'delivery.zip', whole);
  // One byte in the packed sound is turned over: its checksum does not hold.
  const hurt = Buffer.from(
    await zipOf({ 'Hat.wav': await wavBytes([tone(900, 0.3)]), 'Tom.wav': await wavBytes([tone(100, 0.3)]) }),
  );
  hurt[400] = (hurt[400] as number) ^ 0x55;
  await upload(id, 'hurt.zip', hurt);
  await upload(id, 'cut off.zip', whole.subarray(0, whole.length - 200));
  const { recordings } = await settled(id);
  expect(recordings.map((r) => [r.receivedName, r.fault?.code ?? r.state]).sort()).toEqual(
    [
      ['cut off.zip', 'archive.broken'],
      ['delivery/Low Water/Kick.wav', 'ready'],
      ['delivery/Low Water/Snare.wav', 'ready'],
      ['delivery/Low Water/more/Bass/DI.wav', 'ready'],
      ['delivery/Low Water/notes.txt', 'file.no_recording'],
      ['hurt/Hat.wav', 'archive.broken'],
      ['hurt/Tom.wav', 'ready'],
    ].sort(),
  );
});

it('the command line opens the same files, with the hash of the file as given', () => {
  const files = ['a24.aif', 'f24.flac', 'm.mp3'].map((n) => join(folder, n));
  const rows = fernmossJson<Record<string, unknown>[]>(['inspect', ...files]);
  expect(rows.map((r) => [r.container, r.codec, r.lossy, r.channels])).toEqual([
    ['aiff', 's24be', false, 2],
    ['flac', 'flac', false, 2],
    ['mp3', 'mp3', true, 2],
  ]);
  expect(rows.map((r) => r.sha256)).toEqual(files.map((f) => run('sha256sum', [f]).split(' ')[0]));
  // An independent reader agrees on what own readers say.
  for (const [i, file] of files.slice(0, 2).entries()) {
    const said = JSON.parse(
      run('ffprobe', [
        '-v',
        'error',
        '-show_entries',
        'stream=sample_rate,channels,duration_ts',
        '-of',
        'json',
        file,
      ]),
    ) as { streams: { sample_rate: string; channels: number; duration_ts: number }[] };
    expect(rows[i]).toMatchObject({
      sampleRateHz: Number(said.streams[0]?.sample_rate),
      channels: said.streams[0]?.channels,
      lengthFrames: said.streams[0]?.duration_ts,
    });
  }
});
