import { asciiBytes, type ByteSink } from '../units';
import { placeChunks, type SoundPlace } from './wav-places';

/** A WAV file being written. */
export interface WavWriter {
  /** Appends planar frames. */
  write(channels: readonly Float32Array[]): Promise<void>;
  /** Writes the final sizes; returns the number of frames. Turns the file into RF64 beyond 4 GiB. */
  finish(): Promise<{ readonly lengthFrames: number; readonly clippedSamples: number }>;
}

/** Bytes of `fmt ` and before the samples: RIFF 12, JUNK 36 (becomes ds64), fmt 8 + 16 or 18, fact 12 for floats, data 8. */
const layout = (float: boolean): { fmt: number; data: number } =>
  float ? { fmt: 18, data: 12 + 36 + 8 + 18 + 12 + 8 } : { fmt: 16, data: 12 + 36 + 8 + 16 + 8 };

/**
 * Writes 16/24 bit integer or 32 bit float WAV. Integers round to nearest and clip at full scale (counted).
 * Space for `ds64` is reserved so that a file > 4 GiB becomes RF64 (EBU Tech 3306). Throws RangeError for other depths.
 * `places`: named behind the samples, see {@link placeChunks}.
 */
export async function createWavWriter(
  sink: ByteSink,
  format: {
    readonly sampleRateHz: number;
    readonly channels: number;
    readonly bitDepth: 16 | 24 | 32;
    readonly places?: readonly SoundPlace[];
  },
): Promise<WavWriter> {
  const { channels, bitDepth } = format;
  if (![16, 24, 32].includes(bitDepth)) throw new RangeError(`cannot write ${bitDepth} bit`);
  const after = placeChunks(format.places ?? []);
  const raw = await createRawWavWriter(sink, { ...format, float: bitDepth === 32 }, after);
  let clippedSamples = 0;
  return {
    async write(planar) {
      const bytes = new Uint8Array(((planar[0]?.length ?? 0) * channels * bitDepth) / 8);
      clippedSamples += encodeInto(bytes, planar, bitDepth);
      await raw.write(bytes);
    },
    finish: async () => ({ ...(await raw.finish()), clippedSamples }),
  };
}

/** How samples lie in a WAV file: integers or floats of whole bytes. */
interface RawFormat {
  readonly sampleRateHz: number;
  readonly channels: number;
  readonly bitDepth: number;
  readonly float: boolean;
}

/** Writes samples that are bytes already: whole little-endian frames, bit for bit. `after`: chunks behind them. */
export async function createRawWavWriter(
  sink: ByteSink,
  format: RawFormat,
  after: Uint8Array = new Uint8Array(0),
): Promise<{
  write(bytes: Uint8Array): Promise<void>;
  finish(): Promise<{ readonly lengthFrames: number }>;
}> {
  const bytesPerFrame = (format.channels * format.bitDepth) / 8;
  await sink.write(header(format, 0, after.length));
  let dataBytes = 0;
  return {
    async write(bytes) {
      dataBytes += bytes.length;
      await sink.write(bytes);
    },
    async finish() {
      const lengthFrames = dataBytes / bytesPerFrame;
      if (dataBytes % 2) await sink.write(new Uint8Array(1));
      if (after.length > 0) await sink.write(after);
      await sink.patch(0, header(format, lengthFrames, after.length));
      return { lengthFrames };
    },
  };
}

/** `afterBytes`: chunks behind the samples. */
function header(format: RawFormat, lengthFrames: number, afterBytes: number): Uint8Array {
  const { sampleRateHz, channels, bitDepth, float } = format;
  const { fmt, data } = layout(float);
  const bytesPerFrame = (channels * bitDepth) / 8;
  const dataBytes = lengthFrames * bytesPerFrame;
  const total = data - 8 + dataBytes + (dataBytes % 2) + afterBytes;
  const wide = total > 0xffffffff;
  const bytes = new Uint8Array(data);
  const v = new DataView(bytes.buffer);
  const id = (at: number, text: string) => bytes.set(asciiBytes(text), at);
  id(0, wide ? 'RF64' : 'RIFF');
  v.setUint32(4, wide ? 0xffffffff : total, true);
  id(8, 'WAVE');
  id(12, wide ? 'ds64' : 'JUNK');
  v.setUint32(16, 28, true);
  if (wide) {
    v.setBigUint64(20, BigInt(total), true);
    v.setBigUint64(28, BigInt(dataBytes), true);
    v.setBigUint64(36, BigInt(lengthFrames), true);
  }
  id(48, 'fmt ');
  v.setUint32(52, fmt, true);
  v.setUint16(56, float ? 3 : 1, true);
  v.setUint16(58, channels, true);
  v.setUint32(60, sampleRateHz, true);
  v.setUint32(64, sampleRateHz * bytesPerFrame, true);
  v.setUint16(68, bytesPerFrame, true);
  v.setUint16(70, bitDepth, true);
  if (float) {
    // `fact` is required for non-PCM by the 1991 text.
    id(74, 'fact');
    v.setUint32(78, 4, true);
    v.setUint32(82, Math.min(lengthFrames, 0xffffffff), true);
  }
  id(data - 8, 'data');
  v.setUint32(data - 4, wide ? 0xffffffff : dataBytes, true);
  return bytes;
}

/** Returns how many samples had to be clipped. */
function encodeInto(bytes: Uint8Array, planar: readonly Float32Array[], bitDepth: 16 | 24 | 32): number {
  const v = new DataView(bytes.buffer);
  const size = bitDepth / 8;
  const step = planar.length * size;
  const scale = bitDepth === 16 ? 32768 : 8388608;
  let clipped = 0;
  planar.forEach((samples, c) => {
    for (let i = 0, p = c * size; i < samples.length; i++, p += step) {
      const x = samples[i] as number;
      if (bitDepth === 32) {
        v.setFloat32(p, x, true);
        continue;
      }
      let q = Math.round(x * scale);
      if (q > scale - 1) {
        q = scale - 1;
        clipped++;
      } else if (q < -scale) {
        q = -scale;
        clipped++;
      }
      if (bitDepth === 16) v.setInt16(p, q, true);
      else {
        bytes[p] = q & 255;
        bytes[p + 1] = (q >> 8) & 255;
        bytes[p + 2] = (q >> 16) & 255;
      }
    }
  });
  return clipped;
}
