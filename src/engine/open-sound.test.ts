import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ZipFile } from 'yazl';
import { tone, writeWav } from '../../tests/support/recordings';
import { run } from '../../tests/support/programs';
import { decodeFile, kindOfFile, pieceName, splitChannels, unpackArchive } from './index';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-open-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string): string => join(folder, name);
let n = 0;
const fresh = async (): Promise<string> => at(`out${n++}`);

describe('decoding', () => {
  beforeAll(async () => {
    await writeWav(at('a.wav'), [tone(300, 3, 0.3)]);
    run('ffmpeg', ['-v', 'error', '-y', '-i', at('a.wav'), at('a.flac')]);
  });
  it('says so when there is no decoder', async () => {
    expect(
      await decodeFile(at('a.flac'), 'flac', await fresh(), { ffmpeg: join(folder, 'not-there-ffmpeg') }),
    ).toEqual({ ok: false, error: { code: 'decoder.missing', kind: 'flac' } });
  });
  it('stops what stands still', async () => {
    // A decoder that never writes: a shell script in its place.
    writeFileSync(at('slow-ffmpeg'), '#!/bin/sh\nsleep 30\n', { mode: 0o755 });
    writeFileSync(
      at('slow-ffprobe'),
      '#!/bin/sh\necho \'{"streams":[{"codec_name":"flac","channels":1,"sample_fmt":"s16"}]}\'\n',
      { mode: 0o755 },
    );
    const out = await fresh();
    writeFileSync(out, '');
    const clock = Date.now();
    expect(await decodeFile(at('a.flac'), 'flac', out, { ffmpeg: at('slow-ffmpeg'), stillMs: 600 })).toEqual({
      ok: false,
      error: { code: 'decoder.too_long', kind: 'flac' },
    });
    expect(Date.now() - clock).toBeLessThan(5000);
  });
  it('ends at once when withdrawn', async () => {
    await expect(
      decodeFile(at('a.flac'), 'flac', await fresh(), {
        ffmpeg: at('slow-ffmpeg'),
        cancel: { cancelled: true },
      }),
    ).rejects.toThrow('cancelled');
  });
  it('refuses what is no such file, in words; a playlist opens nothing', async () => {
    writeFileSync(at('fake.flac'), 'fLaC and nothing more');
    expect(await decodeFile(at('fake.flac'), 'flac', await fresh())).toMatchObject({
      ok: false,
      error: { code: 'decoder.failed' },
    });
    writeFileSync(at('list.mp3'), `#EXTM3U\nfile://${at('a.wav')}\n`);
    expect(await kindOfFile(at('list.mp3'))).toBe('unknown');
    expect(await decodeFile(at('list.mp3'), 'mp3', await fresh())).toMatchObject({ ok: false });
  });
});

it('writes every channel as a file of its own, bit for bit', async () => {
  await writeWav(at('three.wav'), [tone(100, 0.1), tone(200, 0.1), tone(300, 0.1)]);
  const outs = [await fresh(), await fresh(), await fresh()];
  expect(await splitChannels(at('three.wav'), outs)).toEqual({
    ok: true,
    value: ['channel 1', 'channel 2', 'channel 3'],
  });
  // ffmpeg as an independent reader takes the same channel out.
  outs.forEach((out, c) => {
    const hash = (args: readonly string[]): string =>
      run('ffmpeg', ['-v', 'error', ...args, '-f', 'md5', '-']);
    expect(hash(['-i', out, '-c:a', 'pcm_s24le'])).toBe(
      hash(['-i', at('three.wav'), '-af', `pan=mono|c0=c${c}`, '-c:a', 'pcm_s24le']),
    );
  });
});

it('names pieces after the recorder, else after the file', () => {
  const piece = (name: string, named: boolean) => ({ path: '', channel: { index: 0, name, named } });
  expect(pieceName('Day 1/Reel.wav', piece('Kick', true))).toBe('Day 1/Reel.wav/Kick');
  expect(pieceName('Day 1/Reel.wav', piece('channel 1', false))).toBe('Day 1/Reel channel 1.wav');
  expect(pieceName('v1.0/Reel', piece('channel 1', false))).toBe('v1.0/Reel channel 1');
  expect(pieceName('Reel.wav', { path: '', channel: null })).toBe('Reel.wav');
});

describe('archives', () => {
  const zip = async (files: Readonly<Record<string, Buffer>>, compress = true): Promise<string> => {
    const z = new ZipFile();
    for (const [name, bytes] of Object.entries(files)) z.addBuffer(bytes, name, { compress });
    z.end();
    const parts: Buffer[] = [];
    for await (const p of z.outputStream) parts.push(p as Buffer);
    const path = at(`z${n++}.zip`);
    writeFileSync(path, Buffer.concat(parts));
    return path;
  };
  const limits = { mostEntries: 3, mostBytes: 200e6 };
  it('keeps to its limits of number, size, depth and tightness, and leaves nothing behind', async () => {
    const four = await zip(Object.fromEntries(['a', 'b', 'c', 'd'].map((x) => [`${x}.wav`, Buffer.from(x)])));
    expect(await unpackArchive(four, fresh, limits)).toMatchObject({
      ok: false,
      error: { code: 'archive.too_much' },
    });
    expect(
      await unpackArchive(await zip({ 'a.wav': Buffer.alloc(3000) }), fresh, {
        mostEntries: 3,
        mostBytes: 2000,
      }),
    ).toEqual({ ok: false, error: { code: 'store.no_room', neededBytes: 3000, freeBytes: 2000 } });
    expect(
      await unpackArchive(await zip({ [`${'d/'.repeat(14)}a.wav`]: Buffer.from('a') }), fresh, limits),
    ).toMatchObject({ ok: false, error: { code: 'archive.too_much' } });
    expect(
      await unpackArchive(await zip({ 'bomb.wav': Buffer.alloc(90e6) }), fresh, {
        ...limits,
        mostBytes: 1e9,
      }),
    ).toMatchObject({
      ok: false,
      error: { code: 'archive.too_much', reason: 'it is packed tighter than sound can be' },
    });
    expect(await unpackArchive(await zip({ '.DS_Store': Buffer.from('x') }), fresh, limits)).toEqual({
      ok: false,
      error: { code: 'archive.empty' },
    });
    writeFileSync(at('no.zip'), 'PK\x03\x04 but no archive');
    expect(await unpackArchive(at('no.zip'), fresh, limits)).toEqual({
      ok: false,
      error: { code: 'archive.broken', entry: null },
    });
    expect(readdirSync(folder).filter((f) => f.startsWith('out') && Number(f.slice(3)) > n - 1)).toEqual([]);
  });
  it('takes names as data: none becomes a path', async () => {
    const path = await zip({ 'aa/bb/cc.wav': Buffer.from('sound') }, false);
    const bytes = Buffer.from(
      (await import('node:fs'))
        .readFileSync(path)
        .toString('latin1')
        .replaceAll('aa/bb/cc.wav', '../../xx.wav'),
      'latin1',
    );
    writeFileSync(path, bytes);
    const got = await unpackArchive(path, fresh, limits);
    expect(got).toMatchObject({ ok: true, value: { files: [{ name: '../../xx.wav' }], broken: [] } });
    expect(existsSync(join(folder, '..', '..', 'xx.wav'))).toBe(false);
  });
  it('stops when withdrawn', async () => {
    await expect(
      unpackArchive(await zip({ 'a.wav': Buffer.alloc(1000, 1) }), fresh, limits, {
        cancel: { cancelled: true },
      }),
    ).rejects.toThrow('cancelled');
  });
});
