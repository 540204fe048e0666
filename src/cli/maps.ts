import { readFile } from 'node:fs/promises';
import { mapFileSchema } from '@/contracts';
import { detectTempo, readingToMap } from '@/core/tempo';
import { type SongMap, type SongMapFile, songMapFromFile, songMapFromMidi } from '@/core/time';
import { CallFault } from './arguments';
import { type InspectedSound, tempoTracks } from './sound-files';

/** A map of a call: our JSON or a Standard MIDI File. Throws where it is neither. */
export async function readMap(path: string): Promise<SongMap> {
  let bytes: Uint8Array;
  try {
    bytes = await readFile(path);
  } catch {
    throw new CallFault(`cannot read the map ${path}`);
  }
  if (bytes[0] === 0x4d) {
    const map = songMapFromMidi(bytes);
    if (!map.ok) throw new CallFault(`${path} is no usable MIDI file: ${map.error.reason}`);
    return map.value;
  }
  let file: SongMapFile;
  try {
    file = (await mapFileSchema.validate(JSON.parse(Buffer.from(bytes).toString('utf8')), {
      strict: true,
    })) as SongMapFile;
  } catch (cause) {
    throw new CallFault(`${path} is no tempo map: ${(cause as Error).message}`);
  }
  const map = songMapFromFile(file);
  if (!map.ok) throw new CallFault(`${path} is no tempo map: ${map.error.reason}`);
  return map.value;
}

/** The map that the recordings themselves have; null where none is found. */
export function detectedMap(sounds: readonly InspectedSound[]): SongMap | null {
  const found = detectTempo(tempoTracks(sounds), { timekeepers: null });
  return found.ok ? readingToMap(found.value) : null;
}
