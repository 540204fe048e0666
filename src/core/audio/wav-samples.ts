import type { ByteSource, CancelSignal } from '../units';
import { assertNever, throwIfCancelled } from '../units';
import type { AudioBlock, SampleEncoding } from './format';
import type { WavHeader } from './wav-reader';

const DEFAULT_BLOCK_FRAMES = 65_536;

/**
 * The samples of a WAV file as planar blocks, in order, with bounded memory.
 * `range` is half-open in frames (default: all); a file that ends early just yields fewer frames.
 */
export async function* readWavBlocks(
  source: ByteSource,
  header: WavHeader,
  range: { readonly startFrames?: number; readonly endFrames?: number; readonly blockFrames?: number; readonly cancel?: CancelSignal } = {},
): AsyncGenerator<AudioBlock> {
  const end = Math.min(range.endFrames ?? header.lengthFrames, header.lengthFrames);
  const blockFrames = range.blockFrames ?? DEFAULT_BLOCK_FRAMES;
  for (let start = range.startFrames ?? 0; start < end; start += blockFrames) {
    throwIfCancelled(range.cancel);
    const frames = Math.min(blockFrames, end - start);
    const bytes = await source.read(header.dataOffset + start * header.bytesPerFrame, frames * header.bytesPerFrame);
    const whole = Math.floor(bytes.length / header.bytesPerFrame);
    if (whole === 0) return;
    yield { startFrames: start, channels: decodeInterleaved(bytes, header.encoding, header.channels, whole) };
  }
}

/**
 * Interleaved little-endian bytes to planar float32. Integers scale by 2^(bits−1): full scale negative is −1.
 * 16 and 24 bit integers are exact; 32 bit integers and 64 bit floats round to float32. NaN and ±Infinity become 0.
 */
export function decodeInterleaved(bytes: Uint8Array, encoding: SampleEncoding, channels: number, frames: number): Float32Array[] {
  const out = Array.from({ length: channels }, () => new Float32Array(frames));
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let c = 0; c < channels; c++) decodeChannelInto(out[c] as Float32Array, bytes, view, encoding, c, channels);
  return out;
}

function decodeChannelInto(out: Float32Array, bytes: Uint8Array, v: DataView, encoding: SampleEncoding, c: number, channels: number): void {
  const n = out.length;
  switch (encoding) {
    case 'u8':
      for (let i = 0, p = c; i < n; i++, p += channels) out[i] = ((bytes[p] as number) - 128) / 128;
      return;
    case 's16':
      for (let i = 0, p = 2 * c; i < n; i++, p += 2 * channels) out[i] = v.getInt16(p, true) / 32768;
      return;
    case 's24':
      for (let i = 0, p = 3 * c; i < n; i++, p += 3 * channels)
        out[i] = ((((bytes[p + 2] as number) << 24) | ((bytes[p + 1] as number) << 16) | ((bytes[p] as number) << 8)) >> 8) / 8388608;
      return;
    case 's32':
      for (let i = 0, p = 4 * c; i < n; i++, p += 4 * channels) out[i] = v.getInt32(p, true) / 2147483648;
      return;
    case 'f32':
      for (let i = 0, p = 4 * c; i < n; i++, p += 4 * channels) out[i] = finite(v.getFloat32(p, true));
      return;
    case 'f64':
      for (let i = 0, p = 8 * c; i < n; i++, p += 8 * channels) out[i] = finite(v.getFloat64(p, true));
      return;
    default:
      assertNever(encoding);
  }
}

const finite = (x: number): number => (Number.isFinite(x) ? x : 0);
