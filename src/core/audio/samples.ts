import type { ByteSource, CancelSignal } from '../units';
import { assertNever, throwIfCancelled } from '../units';
import { sampleBytes, type AudioBlock, type SampleEncoding, type SoundHeader } from './format';

const DEFAULT_BLOCK_FRAMES = 65_536;

/**
 * The samples of a file as planar blocks, in order, with bounded memory.
 * `range` is half-open in frames (default: all); a file that ends early just yields fewer frames.
 * With `reuse` every block lies in the same memory: it is good until the next one is asked for.
 */
export async function* readSoundBlocks(
  source: ByteSource,
  header: SoundHeader,
  range: {
    readonly startFrames?: number;
    readonly endFrames?: number;
    readonly blockFrames?: number;
    readonly reuse?: boolean;
    readonly cancel?: CancelSignal;
  } = {},
): AsyncGenerator<AudioBlock> {
  const end = Math.min(range.endFrames ?? header.lengthFrames, header.lengthFrames);
  const blockFrames = range.blockFrames ?? DEFAULT_BLOCK_FRAMES;
  const planes = range.reuse ? planar(header.channels, Math.min(blockFrames, header.lengthFrames)) : null;
  for (let start = range.startFrames ?? 0; start < end; start += blockFrames) {
    throwIfCancelled(range.cancel);
    const frames = Math.min(blockFrames, end - start);
    const bytes = await source.read(
      header.dataOffset + start * header.bytesPerFrame,
      frames * header.bytesPerFrame,
    );
    const whole = Math.floor(bytes.length / header.bytesPerFrame);
    if (whole === 0) return;
    const channels = planes
      ? planes.map((p) => (p.length === whole ? p : p.subarray(0, whole)))
      : planar(header.channels, whole);
    decodeInto(channels, bytes, header.encoding);
    yield { startFrames: start, channels };
  }
}

/**
 * Interleaved bytes to planar float32. Integers scale by 2^(bits−1): full scale negative is −1.
 * 16 and 24 bit integers are exact; 32 bit integers and 64 bit floats round to float32. NaN and ±Infinity become 0.
 */
export function decodeInterleaved(
  bytes: Uint8Array,
  encoding: SampleEncoding,
  channels: number,
  frames: number,
): Float32Array[] {
  const out = planar(channels, frames);
  decodeInto(out, bytes, encoding);
  return out;
}

const planar = (channels: number, frames: number): Float32Array[] =>
  Array.from({ length: channels }, () => new Float32Array(frames));

function decodeInto(out: readonly Float32Array[], bytes: Uint8Array, encoding: SampleEncoding): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  out.forEach((samples, c) => decodeChannelInto(samples, bytes, view, encoding, c, out.length));
}

function decodeChannelInto(
  out: Float32Array,
  bytes: Uint8Array,
  v: DataView,
  encoding: SampleEncoding,
  c: number,
  channels: number,
): void {
  const n = out.length;
  const step = channels * sampleBytes(encoding);
  const first = c * sampleBytes(encoding);
  const little = !encoding.endsWith('be');
  switch (encoding) {
    case 'u8':
      for (let i = 0, p = first; i < n; i++, p += step) out[i] = ((bytes[p] as number) - 128) / 128;
      return;
    case 's8':
      for (let i = 0, p = first; i < n; i++, p += step) out[i] = v.getInt8(p) / 128;
      return;
    case 's16':
    case 's16be':
      for (let i = 0, p = first; i < n; i++, p += step) out[i] = v.getInt16(p, little) / 32768;
      return;
    case 's24':
      decode24(out, bytes, first, step);
      return;
    case 's24be':
      for (let i = 0, p = first; i < n; i++, p += step)
        out[i] =
          ((((bytes[p] as number) << 24) |
            ((bytes[p + 1] as number) << 16) |
            ((bytes[p + 2] as number) << 8)) >>
            8) /
          8388608;
      return;
    case 's32':
    case 's32be':
      for (let i = 0, p = first; i < n; i++, p += step) out[i] = v.getInt32(p, little) / 2147483648;
      return;
    case 'f32':
    case 'f32be':
      for (let i = 0, p = first; i < n; i++, p += step) out[i] = finite(v.getFloat32(p, little));
      return;
    case 'f64':
    case 'f64be':
      for (let i = 0, p = first; i < n; i++, p += step) out[i] = finite(v.getFloat64(p, little));
      return;
    default:
      assertNever(encoding);
  }
}

const FULL_32 = 1 / 2147483648;

/** 24 bit as the upper part of 32: the commonest kind gets its own loop; a mono file is read four samples at a time where its bytes lie on words (little-endian, as every machine this runs on). */
function decode24(out: Float32Array, bytes: Uint8Array, first: number, step: number): void {
  const n = out.length;
  let i = 0;
  if (step === 3 && first === 0 && bytes.byteOffset % 4 === 0) {
    const words = new Int32Array(bytes.buffer, bytes.byteOffset, Math.floor((n * 3) / 12) * 3);
    for (let w = 0; w < words.length; w += 3, i += 4) {
      const a = words[w] as number;
      const b = words[w + 1] as number;
      const c = words[w + 2] as number;
      out[i] = (a << 8) * FULL_32;
      out[i + 1] = (((a >>> 16) & 0xff00) | (b << 16)) * FULL_32;
      out[i + 2] = (((b >>> 8) & 0xffff00) | (c << 24)) * FULL_32;
      out[i + 3] = (c & 0xffffff00) * FULL_32;
    }
  }
  for (let p = first + i * step; i < n; i++, p += step)
    out[i] =
      (((bytes[p + 2] as number) << 24) | ((bytes[p + 1] as number) << 16) | ((bytes[p] as number) << 8)) *
      FULL_32;
}

const finite = (x: number): number => (Number.isFinite(x) ? x : 0);

/**
 * One channel of interleaved bytes as little-endian bytes, bit for bit (signed 8 bit as unsigned, since WAV knows no other): what a WAV file of its own holds.
 * `encoding` is that of the bytes given; see {@link littleEncoding} for that of the result.
 */
export function channelOf(
  bytes: Uint8Array,
  encoding: SampleEncoding,
  channels: number,
  channel: number,
): Uint8Array {
  const size = sampleBytes(encoding);
  const frames = Math.floor(bytes.length / (size * channels));
  const out = new Uint8Array(frames * size);
  const swapped = encoding.endsWith('be');
  const flip = encoding === 's8' ? 0x80 : 0;
  for (let i = 0, p = channel * size, q = 0; i < frames; i++, p += size * channels, q += size)
    for (let b = 0; b < size; b++) out[q + b] = (bytes[p + (swapped ? size - 1 - b : b)] as number) ^ flip;
  return out;
}

/** Two channels of little-endian bytes, of equal length, as interleaved ones, bit for bit. */
export function interleaveTwo(left: Uint8Array, right: Uint8Array, sampleBytesEach: number): Uint8Array {
  const out = new Uint8Array(left.length + right.length);
  for (let p = 0, q = 0; p < left.length; p += sampleBytesEach, q += 2 * sampleBytesEach)
    for (let b = 0; b < sampleBytesEach; b++) {
      out[q + b] = left[p + b] as number;
      out[q + sampleBytesEach + b] = right[p + b] as number;
    }
  return out;
}

/** The encoding of what {@link channelOf} gives. */
export const littleEncoding = (encoding: SampleEncoding): SampleEncoding =>
  encoding === 's8' ? 'u8' : (encoding.replace('be', '') as SampleEncoding);
