import {
  createRawWavWriter,
  createWavWriter,
  decodeInterleaved,
  interleaveTwo,
  littleEncoding,
  readSoundHeader,
  type SampleEncoding,
  sampleBytes,
  type SoundFault,
  channelOf,
} from '@/core/audio';
import { err, ok, type ProgressSink, type Result } from '@/core/units';
import { fileSink, fileSource } from './files';

const BLOCK_FRAMES = 65_536;

/** One side of a pair. */
export interface JoinSide {
  readonly path: string;
  /** Which channel of its file, from 0. */
  readonly channel: number;
  /** Frames of silence before it, at the file's rate. */
  readonly delayFrames: number;
}

/** What is to be joined, and where to. */
export interface JoinInput {
  readonly left: JoinSide;
  readonly right: JoinSide;
  /** The right side is turned over against the left. */
  readonly invertRight: boolean;
  readonly outPath: string;
}

/** A channel of a file, wherever its samples lie; silence outside of it. */
interface ChannelReader {
  readonly encoding: SampleEncoding;
  readonly sampleRateHz: number;
  readonly endFrames: number;
  /** Samples of these frames, little-endian. */
  readonly read: (startFrames: number, frames: number) => Promise<Uint8Array>;
  readonly close: () => Promise<void>;
}

async function openChannel({
  path,
  channel,
  delayFrames,
}: JoinSide): Promise<Result<ChannelReader, SoundFault>> {
  const file = await fileSource(path);
  const read = await readSoundHeader(file.bytes);
  if (!read.ok) {
    await file.close();
    return err(read.error);
  }
  const { encoding, channels, bytesPerFrame, dataOffset, lengthFrames, sampleRateHz } = read.value;
  const width = sampleBytes(encoding);
  // Bytes of 8 bit count from the middle.
  const silence = littleEncoding(encoding) === 'u8' ? 128 : 0;
  return ok({
    encoding: littleEncoding(encoding),
    sampleRateHz,
    endFrames: delayFrames + lengthFrames,
    close: () => file.close(),
    async read(startFrames, frames) {
      const out = new Uint8Array(frames * width).fill(silence);
      const from = Math.max(0, startFrames - delayFrames);
      const to = Math.min(lengthFrames, startFrames - delayFrames + frames);
      if (to > from)
        out.set(
          channelOf(
            await file.bytes.read(dataOffset + from * bytesPerFrame, (to - from) * bytesPerFrame),
            encoding,
            channels,
            channel,
          ),
          (from + delayFrames - startFrames) * width,
        );
      return out;
    },
  });
}

/**
 * Writes two channels as one stereo WAV file, the shorter with silence at its end. Samples stored alike stay bit for bit;
 * others are written wide enough for both (24 bit, or 32 bit float), and so is a side that is turned over.
 * Faults: those of {@link readSoundHeader}; throws RangeError for two rates.
 */
export async function joinPair(
  { left, right, invertRight, outPath }: JoinInput,
  progress?: ProgressSink,
): Promise<Result<{ readonly lengthFrames: number }, SoundFault>> {
  const a = await openChannel(left);
  if (!a.ok) return err(a.error);
  const b = await openChannel(right).catch(async (cause: unknown) => {
    await a.value.close();
    throw cause;
  });
  if (!b.ok) {
    await a.value.close();
    return err(b.error);
  }
  const [l, r] = [a.value, b.value];
  let sink: Awaited<ReturnType<typeof fileSink>> | null = null;
  try {
    sink = await fileSink(outPath);
    if (l.sampleRateHz !== r.sampleRateHz)
      throw new RangeError(`${l.sampleRateHz} and ${r.sampleRateHz} Hz make no pair`);
    const lengthFrames = Math.max(l.endFrames, r.endFrames);
    const bitDepth = Math.max(sampleBytes(l.encoding), sampleBytes(r.encoding)) * 8;
    const isPlain = l.encoding === r.encoding && !invertRight;
    const format = { sampleRateHz: l.sampleRateHz, channels: 2 };
    const isWide = bitDepth > 24 || l.encoding.startsWith('f') || r.encoding.startsWith('f');
    const raw = isPlain
      ? await createRawWavWriter(sink.bytes, { ...format, bitDepth, float: l.encoding.startsWith('f') })
      : null;
    const decoded = raw
      ? null
      : await createWavWriter(sink.bytes, { ...format, bitDepth: isWide ? 32 : bitDepth === 16 ? 16 : 24 });
    for (let at = 0; at < lengthFrames; at += BLOCK_FRAMES) {
      const frames = Math.min(BLOCK_FRAMES, lengthFrames - at);
      const [x, y] = [await l.read(at, frames), await r.read(at, frames)];
      if (raw) await raw.write(interleaveTwo(x, y, bitDepth / 8));
      else {
        const [one, two] = [
          decodeInterleaved(x, l.encoding, 1, frames)[0] as Float32Array,
          decodeInterleaved(y, r.encoding, 1, frames)[0] as Float32Array,
        ];
        await decoded?.write([one, invertRight ? two.map((v) => -v) : two]);
      }
      progress?.(at / lengthFrames);
    }
    await (raw ?? decoded)?.finish();
    return ok({ lengthFrames });
  } finally {
    await Promise.all([sink?.close(), l.close(), r.close()]);
  }
}
