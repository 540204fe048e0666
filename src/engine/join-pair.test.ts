import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { run } from '../../tests/support/programs';
import { tone, writeWav } from '../../tests/support/recordings';
import { joinPair } from './join-pair';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-join-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string): string => join(folder, name);
const side = (path: string, more: { readonly channel?: number; readonly delayFrames?: number } = {}) => ({
  path,
  channel: 0,
  delayFrames: 0,
  ...more,
});
const wave = (path: string, filter: string, codec = 'pcm_s24le'): string =>
  run('ffmpeg', ['-v', 'error', '-i', path, '-af', filter, '-c:a', codec, '-f', 'md5', '-']);

beforeAll(async () => {
  await writeWav(at('l.wav'), [tone(300, 1.5, 0.4)]);
  await writeWav(at('r.wav'), [tone(500, 1, 0.3)]);
  await writeWav(at('r16.wav'), [tone(500, 1, 0.3)], { bitDepth: 16 });
  await writeWav(at('f.wav'), [tone(500, 1, 0.3)], { bitDepth: 32 });
  await writeWav(at('two.wav'), [tone(100, 1), tone(200, 1)]);
});

// ffmpeg as an independent reader.
it('both sides come out bit for bit, the shorter with silence at its end', async () => {
  expect(
    await joinPair({
      left: side(at('l.wav')),
      right: side(at('r.wav')),
      invertRight: false,
      outPath: at('a.wav'),
    }),
  ).toEqual({ ok: true, value: { lengthFrames: 72_000 } });
  expect(wave(at('a.wav'), 'pan=mono|c0=c0')).toBe(wave(at('l.wav'), 'anull'));
  expect(wave(at('a.wav'), 'pan=mono|c0=c1')).toBe(wave(at('r.wav'), 'apad=whole_len=72000'));
});
it('a later side waits for its time, one channel of two is taken, and the same input gives the same bytes', async () => {
  const input = {
    left: side(at('two.wav'), { channel: 1 }),
    right: side(at('r.wav'), { delayFrames: 70_001 }),
    invertRight: false,
  };
  await joinPair({ ...input, outPath: at('b.wav') });
  expect(wave(at('b.wav'), 'pan=mono|c0=c1')).toBe(wave(at('r.wav'), 'adelay=70001S:all=1'));
  expect(wave(at('b.wav'), 'pan=mono|c0=c0')).toBe(
    wave(at('two.wav'), 'pan=mono|c0=c1,apad=whole_len=118001'),
  );
  await joinPair({ ...input, outPath: at('c.wav') });
  expect(readFileSync(at('c.wav')).equals(readFileSync(at('b.wav')))).toBe(true);
});
it.each([
  ['r16.wav', 'pcm_s24le', '24'],
  ['f.wav', 'pcm_f32le', '32'],
])('sides stored unlike each other are written wide enough for both (%s)', async (name, codec) => {
  await joinPair({
    left: side(at('l.wav')),
    right: side(at(name)),
    invertRight: false,
    outPath: at(`d-${name}`),
  });
  expect(
    run('ffprobe', [
      '-v',
      'error',
      '-show_entries',
      'stream=codec_name',
      '-of',
      'csv=p=0',
      at(`d-${name}`),
    ]).trim(),
  ).toBe(codec);
  expect(wave(at(`d-${name}`), 'pan=mono|c0=c0', codec)).toBe(wave(at('l.wav'), 'anull', codec));
  expect(wave(at(`d-${name}`), 'pan=mono|c0=c1', codec)).toBe(wave(at(name), 'apad=whole_len=72000', codec));
});
it('a side that was turned over stays so against the other', async () => {
  await joinPair({
    left: side(at('l.wav')),
    right: side(at('l.wav')),
    invertRight: true,
    outPath: at('e.wav'),
  });
  // Together they are silence.
  expect(
    run('sh', [
      '-c',
      `ffmpeg -hide_banner -i '${at('e.wav')}' -af 'pan=mono|c0=c0+c1,volumedetect' -f null - 2>&1 | grep max_volume`,
    ]),
  ).toMatch(/-91\.0 dB|-inf/);
});
it('refuses two rates, and a file that is none', async () => {
  await writeWav(at('44.wav'), [tone(300, 0.1, 0.4, 44_100)], { rateHz: 44_100 });
  await expect(
    joinPair({
      left: side(at('l.wav')),
      right: side(at('44.wav')),
      invertRight: false,
      outPath: at('g.wav'),
    }),
  ).rejects.toThrow('48000 and 44100 Hz make no pair');
  await expect(
    joinPair({
      left: side(at('l.wav')),
      right: side(at('nothing.wav')),
      invertRight: false,
      outPath: at('h.wav'),
    }),
  ).rejects.toThrow('ENOENT');
});
