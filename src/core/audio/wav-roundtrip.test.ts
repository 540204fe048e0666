import { bytesSource, createRandom } from '../units';
import { memorySink } from '../../../tests/support/recordings';
import { createWavWriter, readSoundBlocks, readSoundHeader } from './index';

/** Reads a range of a file back as one array a channel. */
async function readBack(
  bytes: Uint8Array,
  range: { startFrames?: number; endFrames?: number; blockFrames?: number } = {},
): Promise<number[][]> {
  const source = bytesSource(bytes);
  const header = await readSoundHeader(source);
  if (!header.ok) throw new Error(header.error.code);
  const out: number[][] = Array.from({ length: header.value.channels }, () => []);
  for await (const block of readSoundBlocks(source, header.value, range))
    block.channels.forEach((c, i) => (out[i] as number[]).push(...c));
  return out;
}

it.each([16, 24, 32] as const)(
  '%i bit: any range in any blocks is the same as the whole, cut (seed 19)',
  async (bitDepth) => {
    const random = createRandom(19);
    const length = 500;
    const channels = [0, 1].map(() => Float32Array.from({ length }, () => random() * 1.8 - 0.9));
    const sink = memorySink();
    const writer = await createWavWriter(sink, { sampleRateHz: 48_000, channels: 2, bitDepth });
    for (let at = 0; at < length;) {
      const end = Math.min(length, at + 1 + Math.floor(random() * 90));
      await writer.write(channels.map((c) => c.subarray(at, end)));
      at = end;
    }
    expect((await writer.finish()).lengthFrames).toBe(length);
    const whole = await readBack(sink.bytes());
    whole.forEach((c, i) =>
      c.forEach((x, k) =>
        expect(Math.abs(x - (channels[i]?.[k] as number))).toBeLessThanOrEqual(
          0.5001 / 2 ** (Math.min(bitDepth, 24) - 1),
        ),
      ),
    );
    for (let round = 0; round < 40; round++) {
      const startFrames = Math.floor(random() * length);
      const endFrames = startFrames + Math.floor(random() * 200);
      const blockFrames = 1 + Math.floor(random() * 64);
      expect(await readBack(sink.bytes(), { startFrames, endFrames, blockFrames })).toEqual(
        whole.map((c) => c.slice(startFrames, endFrames)),
      );
    }
  },
);
