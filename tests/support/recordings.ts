import { writeFile } from 'node:fs/promises';
import { createWavWriter } from '@/core/audio';
import type { ByteSink } from '@/core/units';

/** A sink in memory. */
export function memorySink(): ByteSink & { bytes(): Uint8Array } {
  const parts: Uint8Array[] = [];
  const join = (): Uint8Array => {
    if (parts.length > 1) parts.splice(0, parts.length, Uint8Array.from(Buffer.concat(parts)));
    return parts[0] ?? new Uint8Array(0);
  };
  return {
    async write(bytes) {
      parts.push(bytes.slice());
    },
    async patch(offset, bytes) {
      join().set(bytes, offset);
    },
    bytes: join,
  };
}

/** Bytes of a WAV file of planar samples. */
export async function wavBytes(
  channels: readonly Float32Array[],
  options: { readonly rateHz?: number; readonly bitDepth?: 16 | 24 | 32 } = {},
): Promise<Uint8Array> {
  const sink = memorySink();
  const writer = await createWavWriter(sink, {
    sampleRateHz: options.rateHz ?? 48_000,
    channels: channels.length,
    bitDepth: options.bitDepth ?? 24,
  });
  await writer.write(channels);
  await writer.finish();
  return sink.bytes();
}

/** Writes a WAV file; returns its path. */
export async function writeWav(
  path: string,
  channels: readonly Float32Array[],
  options: { readonly rateHz?: number; readonly bitDepth?: 16 | 24 | 32 } = {},
): Promise<string> {
  await writeFile(path, await wavBytes(channels, options));
  return path;
}

const { sin, PI, exp } = Math;

/** A sine. */
export const tone = (hz: number, seconds: number, level = 0.5, rateHz = 48_000): Float32Array =>
  Float32Array.from(
    { length: Math.round(seconds * rateHz) },
    (_, i) => level * sin((2 * PI * hz * i) / rateHz),
  );

/** Silence but for one sample of full level at each moment (nearest frame). */
export function impulses(moments: readonly number[], seconds: number, rateHz = 48_000): Float32Array {
  const out = new Float32Array(Math.round(seconds * rateHz));
  for (const t of moments) out[Math.round(t * rateHz)] = 0.9;
  return out;
}

/** Decaying knocks at given moments: enough of a drum to keep time by. */
export function knocks(
  moments: readonly number[],
  seconds: number,
  hz: number,
  rateHz = 48_000,
): Float32Array {
  const out = new Float32Array(Math.round(seconds * rateHz));
  const length = Math.round(0.15 * rateHz);
  const knock = Float32Array.from(
    { length },
    (_, i) => 0.7 * exp(-i / (0.03 * rateHz)) * (sin((2 * PI * hz * i) / rateHz) + 0.5 * sin(i * i)),
  );
  for (const t of moments) {
    const begin = Math.round(t * rateHz);
    for (let i = 0; i < length && begin + i < out.length; i++)
      out[begin + i] = (out[begin + i] as number) + (knock[i] as number);
  }
  return out;
}
