import { wholePiece } from '../../tests/support/pieces';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { tone, writeWav } from '../../tests/support/recordings';
import { bytesSource } from '@/core/units';
import { readSoundBlocks, readSoundHeader } from '@/core/audio';
import { mixDown, renderClick } from '@/core/render';
import type { ClickBeat } from '@/core/time';
import { type GuideTrack, writeClickFile } from './click-file';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-click-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const RATE = 48_000;
const STROKES: readonly ClickBeat[] = [
  { seconds: 0.25, stroke: 'accent' },
  { seconds: 0.75, stroke: 'pulse' },
  { seconds: 1, stroke: 'part' },
];
const outPath = join(folder, 'click.wav');
beforeEach(() => rmSync(outPath, { force: true }));

async function read(): Promise<{ readonly channels: Float32Array[]; readonly bits: number }> {
  const bytes = bytesSource(new Uint8Array(readFileSync(outPath)));
  const header = await readSoundHeader(bytes);
  if (!header.ok) throw new Error(header.error.code);
  const channels = Array.from(
    { length: header.value.channels },
    () => new Float32Array(header.value.lengthFrames),
  );
  for await (const block of readSoundBlocks(bytes, header.value))
    block.channels.forEach((c, i) => channels[i]?.set(c, block.startFrames));
  return { channels, bits: 8 * (header.value.bytesPerFrame / header.value.channels) };
}
const click = (frames: number, sound: 'tone' | 'wood'): Float32Array =>
  Float32Array.from(
    [...renderClick(STROKES, RATE, frames, { sound })].flatMap(([b]) => [...(b as Float32Array)]),
  );
const STEP = 2 ** -23;

it('alone it is one channel of 24 bits, as long as asked, every stroke at its frame', async () => {
  expect(
    await writeClickFile({
      outPath,
      sampleRateHz: RATE,
      lengthFrames: 70_001,
      strokes: STROKES,
      sound: 'wood',
      gainDb: 0,
      guide: null,
      soundPaths: {},
    }),
  ).toEqual({ lengthFrames: 70_001, channels: 1 });
  const { channels, bits } = await read();
  expect([channels.length, channels[0]?.length, bits]).toEqual([1, 70_001, 24]);
  const want = click(70_001, 'wood');
  channels[0]?.forEach((x, i) => {
    if (Math.abs(x - (want[i] as number)) > 1.01 * STEP) throw new Error(`frame ${i}`);
  });
});

it('a guide is left, as loud as a downbeat whatever its tracks sum to, the click right; against the plain mix', async () => {
  const [a, b] = [tone(220, 1, 0.9), tone(330, 1.5, 0.8)];
  const paths = [
    await writeWav(join(folder, 'a.wav'), [a]),
    await writeWav(join(folder, 'b.wav'), [b, tone(331, 1.5, 0.7)]),
  ];
  const strips = [
    { channels: 1, gainDb: -3, pan: -0.5, inverted: true, startFrames: 12_345, frames: a.length },
    { channels: 2, gainDb: 2, pan: 0.25, inverted: false, startFrames: -4_000, frames: b.length },
  ];
  await writeClickFile({
    outPath,
    sampleRateHz: RATE,
    lengthFrames: 150_000,
    strokes: STROKES,
    sound: 'tone',
    gainDb: 0,
    guide: strips.map((s, i) => ({ ...s, pieces: [wholePiece(String(i), s.frames, s.startFrames)] })),
    soundPaths: Object.fromEntries(paths.entries()),
  });
  const {
    channels: [left = new Float32Array(), right = new Float32Array()],
  } = await read();
  const files = await Promise.all(
    paths.map(async (p) => {
      const bytes = bytesSource(new Uint8Array(readFileSync(p)));
      const h = await readSoundHeader(bytes);
      if (!h.ok) throw new Error(h.error.code);
      const out: Float32Array[] = Array.from(
        { length: h.value.channels },
        () => new Float32Array(h.value.lengthFrames),
      );
      for await (const block of readSoundBlocks(bytes, h.value))
        block.channels.forEach((c, i) => out[i]?.set(c, block.startFrames));
      return out;
    }),
  );
  const [l, r] = mixDown(
    strips.map((s, i) => ({
      ...s,
      pieces: [wholePiece(files[i] as Float32Array[], s.frames, s.startFrames)],
    })),
    0,
    150_000,
  );
  const mono = l.map((x, i) => (x + (r[i] as number)) / 2);
  const peak = mono.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  let worst = 0;
  left.forEach((x, i) => {
    worst = Math.max(worst, Math.abs(x - (0.5 * (mono[i] as number)) / peak));
  });
  expect(worst).toBeLessThan(2 * STEP);
  const want = click(150_000, 'tone');
  right.forEach((x, i) => {
    if (Math.abs(x - (want[i] as number)) > 1.01 * STEP) throw new Error(`frame ${i}`);
  });
});

it('a silent guide stays silent, and what cannot be read is said', async () => {
  const silent = await writeWav(join(folder, 's.wav'), [new Float32Array(1000)]);
  const track: GuideTrack = {
    pieces: [wholePiece('s', 1000)],
    channels: 1,
    gainDb: 0,
    pan: 0,
    inverted: false,
  };
  await writeClickFile({
    outPath,
    sampleRateHz: RATE,
    lengthFrames: 3000,
    strokes: [],
    sound: 'tick',
    gainDb: 0,
    guide: [track],
    soundPaths: { s: silent },
  });
  expect((await read()).channels[0]?.every((x) => x === 0)).toBe(true);
  rmSync(outPath);
  await expect(
    writeClickFile({
      outPath,
      sampleRateHz: 44_100,
      lengthFrames: 3000,
      strokes: [],
      sound: 'tick',
      gainDb: 0,
      guide: [track],
      soundPaths: { s: silent },
    }),
  ).rejects.toThrow('at 48000 Hz');
});
