import {
  channelName,
  createRawWavWriter,
  littleEncoding,
  readSoundHeader,
  readSoundMetadata,
  sampleBytes,
  type SoundFault,
  channelOf,
} from '@/core/audio';
import { err, ok, type ProgressSink, type Result } from '@/core/units';
import { fileSink, fileSource } from './files';

const BLOCK_FRAMES = 65_536;

/** Writes every channel of a WAV or AIFF file as a mono WAV file, bit for bit; `outPaths` one a channel. Gives their names. */
export async function splitChannels(
  path: string,
  outPaths: readonly string[],
  progress?: ProgressSink,
): Promise<Result<readonly string[], SoundFault>> {
  const input = await fileSource(path);
  try {
    const read = await readSoundHeader(input.bytes);
    if (!read.ok) return err(read.error);
    const { channels, encoding, sampleRateHz, lengthFrames, dataOffset, bytesPerFrame, channelMask } =
      read.value;
    if (outPaths.length !== channels) throw new RangeError(`${channels} channels need as many paths`);
    const { trackNames } = await readSoundMetadata(input.bytes);
    const outputs = await Promise.all(outPaths.map((p) => fileSink(p)));
    try {
      const format = {
        sampleRateHz,
        channels: 1,
        bitDepth: sampleBytes(encoding) * 8,
        float: littleEncoding(encoding).startsWith('f'),
      };
      const writers = await Promise.all(outputs.map((o) => createRawWavWriter(o.bytes, format)));
      for (let at = 0; at < lengthFrames; at += BLOCK_FRAMES) {
        const bytes = await input.bytes.read(
          dataOffset + at * bytesPerFrame,
          Math.min(BLOCK_FRAMES, lengthFrames - at) * bytesPerFrame,
        );
        if (bytes.length < bytesPerFrame) break;
        for (const [c, writer] of writers.entries())
          await writer.write(channelOf(bytes, encoding, channels, c));
        progress?.(at / lengthFrames);
      }
      for (const writer of writers) await writer.finish();
    } finally {
      await Promise.all(outputs.map((o) => o.close()));
    }
    return ok(outPaths.map((_, c) => channelName(c, trackNames, channelMask, channels)));
  } finally {
    await input.close();
  }
}
