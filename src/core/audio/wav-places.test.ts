import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bytesSource } from '../units';
import { memorySink } from '../../../tests/support/recordings';
import { createWavWriter, readSoundBlocks, readSoundHeader } from './index';
import { readSoundMetadata } from './metadata';
import { placeChunks, type SoundPlace } from './wav-places';

const PLACES: readonly SoundPlace[] = [
  { frame: 0, text: 'First downbeat' },
  { frame: 4801, text: 'Brücke, “leise”' },
  { frame: 47_999, text: 'Out' },
];

async function written(
  bitDepth: 16 | 24 | 32,
  frames: number,
  places: readonly SoundPlace[],
): Promise<Uint8Array> {
  const sink = memorySink();
  const writer = await createWavWriter(sink, { sampleRateHz: 48_000, channels: 1, bitDepth, places });
  await writer.write([new Float32Array(frames).fill(0.25)]);
  await writer.finish();
  return sink.bytes();
}

it.each([16, 24, 32] as const)(
  '%i bit: places come back with their names, the sound as it was',
  async (depth) => {
    // An odd number of bytes: the chunks begin at an even one.
    const bytes = await written(depth, 48_001, PLACES);
    expect(new DataView(bytes.buffer, bytes.byteOffset).getUint32(4, true)).toBe(bytes.length - 8);
    const source = bytesSource(bytes);
    const header = await readSoundHeader(source);
    if (!header.ok) throw new Error(header.error.code);
    expect(header.value.lengthFrames).toBe(48_001);
    const { markers } = await readSoundMetadata(source);
    expect(markers.map((m) => [m.frame, m.label])).toEqual(PLACES.map((p) => [p.frame, p.text]));
    for await (const block of readSoundBlocks(source, header.value))
      expect(block.channels[0]?.every((x) => Math.abs(x - 0.25) < 1e-4)).toBe(true);
  },
);

it('writes nothing for no places, or for those out of reach', async () => {
  expect(await written(24, 10, [])).toEqual(await written(24, 10, [{ frame: 2 ** 33, text: 'Far' }]));
  expect(placeChunks([{ frame: -1, text: 'Before' }])).toHaveLength(0);
});

it('is read by somebody else’s program (ffprobe)', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-places-'));
  const path = join(folder, 'click.wav');
  writeFileSync(path, await written(24, 48_000, PLACES));
  const text = execFileSync('ffprobe', ['-v', 'error', '-show_chapters', '-of', 'json', path], {
    encoding: 'utf8',
  });
  rmSync(folder, { recursive: true });
  const { chapters } = JSON.parse(text) as {
    chapters: { readonly start: number; readonly tags: { readonly title: string } }[];
  };
  expect(chapters.map((c) => [c.start, c.tags.title])).toEqual(PLACES.map((p) => [p.frame, p.text]));
});
