import { asciiBytes, joinBytes, utf8Bytes } from '../units';

/** A named place of a sound file. */
export interface SoundPlace {
  readonly frame: number;
  readonly text: string;
}

/** Frames and ids are counted in 32 bits. */
const MOST = 0xffffffff;

/**
 * Chunks `cue ` and `LIST adtl` that name places of a WAV file, in this order: programs that read them the other way
 * round lose the names. Texts are UTF-8. Places beyond 2³² frames are left out. Source: Multimedia Programming Interface
 * and Data Specifications 1.0 (1991), Cue-Points Chunk and Associated Data Chunk.
 */
export function placeChunks(places: readonly SoundPlace[]): Uint8Array {
  const fit = places.filter((p) => p.frame >= 0 && p.frame <= MOST);
  if (fit.length === 0) return new Uint8Array(0);
  const cue = new Uint8Array(4 + 24 * fit.length);
  const view = new DataView(cue.buffer);
  view.setUint32(0, fit.length, true);
  fit.forEach(({ frame }, i) => {
    const at = 4 + 24 * i;
    view.setUint32(at, i + 1, true);
    view.setUint32(at + 4, frame, true);
    cue.set(asciiBytes('data'), at + 8);
    view.setUint32(at + 20, frame, true);
  });
  const labels = fit.map(({ text }, i) => {
    // A NUL would end the text for who reads it.
    const bytes = utf8Bytes(text.replaceAll('\0', ' '));
    const label = new Uint8Array(4 + bytes.length + 1);
    new DataView(label.buffer).setUint32(0, i + 1, true);
    label.set(bytes, 4);
    return chunk('labl', label);
  });
  return joinBytes([chunk('cue ', cue), chunk('LIST', joinBytes([asciiBytes('adtl'), ...labels]))]);
}

/** A chunk, padded to even length. */
function chunk(id: string, content: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(8 + content.length + (content.length % 2));
  bytes.set(asciiBytes(id));
  new DataView(bytes.buffer).setUint32(4, content.length, true);
  bytes.set(content, 8);
  return bytes;
}
