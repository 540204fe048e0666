import { readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import type { ByteSource } from '@/core/units';
import { fileSource } from './files';

/** A file and where it begins in the song, frames at its rate. */
export interface PlacedFile {
  readonly path: string;
  readonly startFrames: number;
}

/** A file that is open, in its place. */
export interface OpenPlaced {
  readonly bytes: ByteSource;
  readonly header: SoundHeader;
  /** Where it begins. */
  readonly startFrames: number;
  close(): Promise<void>;
}

/** Opens files for some work and closes them after it; throws where one cannot be read any more. */
export async function withPlacedFiles<T>(
  placed: readonly PlacedFile[],
  work: (files: readonly OpenPlaced[]) => Promise<T>,
): Promise<T> {
  const files: OpenPlaced[] = [];
  try {
    for (const { path, startFrames } of placed) {
      const file = await fileSource(path);
      const header = await readSoundHeader(file.bytes);
      if (!header.ok) {
        await file.close();
        throw new Error(`${path} cannot be read any more: ${header.error.code}`);
      }
      files.push({ bytes: file.bytes, header: header.value, startFrames, close: () => file.close() });
    }
    return await work(files);
  } finally {
    for (const file of files) await file.close();
  }
}

/** Frames [from, from + count) of the song in a file, planar; what lies outside of it is silence. */
export async function framesOf(
  { bytes, header, startFrames: begin }: OpenPlaced,
  from: number,
  count: number,
): Promise<Float32Array[]> {
  const out = Array.from({ length: header.channels }, () => new Float32Array(count));
  const startFrames = Math.max(0, from - begin);
  const endFrames = Math.min(header.lengthFrames, from + count - begin);
  if (endFrames <= startFrames) return out;
  for await (const block of readSoundBlocks(bytes, header, { startFrames, endFrames }))
    block.channels.forEach((x, c) => out[c]?.set(x, block.startFrames + begin - from));
  return out;
}

/** First frame of the song after a file. */
export const endOfFile = ({ header, startFrames }: OpenPlaced): number => startFrames + header.lengthFrames;

/** Channels of a stretch as one. */
export function monoOf(channels: readonly Float32Array[]): Float32Array {
  const [first] = channels as readonly [Float32Array];
  if (channels.length === 1) return first;
  const out = new Float32Array(first.length);
  for (const x of channels)
    for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (x[i] as number) / channels.length;
  return out;
}

/** Channels of a file that count. */
export const channelsOf = ({ header }: OpenPlaced): number => Math.min(2, header.channels);
