import type { ReadSound } from '@/core/arrange';
import { readSoundBlocks, readSoundHeader, type SoundHeader } from '@/core/audio';
import type { ByteSource } from '@/core/units';
import { fileSource, type OpenFile } from './files';

/** Sounds on the disk, to be read anywhere. */
export interface OpenSounds {
  readonly read: ReadSound<string>;
  readonly close: () => Promise<void>;
}

/** Opens sounds by the names they have in `paths`. Throws if one cannot be read or is at another rate. */
export async function openSounds(
  names: Iterable<string>,
  paths: Readonly<Record<string, string>>,
  sampleRateHz: number,
): Promise<OpenSounds> {
  const sounds = new Map<string, { readonly file: OpenFile<ByteSource>; readonly header: SoundHeader }>();
  const close = async (): Promise<void> => {
    await Promise.all([...sounds.values()].map((s) => s.file.close()));
  };
  try {
    for (const name of new Set(names)) {
      const path = paths[name];
      if (path === undefined) throw new RangeError(`no audio for ${name}`);
      const file = await fileSource(path);
      const header = await readSoundHeader(file.bytes);
      if (!header.ok || header.value.sampleRateHz !== sampleRateHz) {
        await file.close();
        throw new Error(
          `the stored audio of ${name} cannot be read: ${header.ok ? `it is at ${header.value.sampleRateHz} Hz` : header.error.code}`,
        );
      }
      sounds.set(name, { file, header: header.value });
    }
  } catch (cause) {
    await close();
    throw cause;
  }
  return {
    close,
    async read(name, from, count) {
      const { file, header } = sounds.get(name) as { file: OpenFile<ByteSource>; header: SoundHeader };
      const range = { startFrames: from, endFrames: from + count, blockFrames: count };
      for await (const block of readSoundBlocks(file.bytes, header, range)) return block.channels;
      return Array.from({ length: header.channels }, () => new Float32Array(0));
    },
  };
}
