import { asciiText, type ByteSource } from '../units';
import { tempoClaim, type TempoClaim } from './claims';
import { view } from './wav-chunks';

const MAX_BOXES = 2000;
const PATH = ['moov', 'udta', 'meta', 'ilst', 'tmpo', 'data'] as const;

/**
 * The tempo an MP4/M4A file claims in `moov/udta/meta/ilst/tmpo/data` (type 0x15, a big-endian u16), which general readers leave out.
 * Sources: ISO/IEC 14496-12 boxes (from memory); the item as two independent readers show it (formats fact sheet §1.7).
 */
export async function readMp4Tempo(source: ByteSource): Promise<TempoClaim[]> {
  let begin = 0;
  let end = source.sizeBytes;
  let boxes = 0;
  for (const name of PATH) {
    let found: { readonly body: number; readonly end: number } | null = null;
    for (let at = begin; at + 8 <= end && boxes < MAX_BOXES; boxes++) {
      const head = await source.read(at, 16);
      if (head.length < 8) break;
      const v = view(head);
      const short = v.getUint32(0);
      const wide = short === 1 && head.length === 16;
      const size = wide ? v.getUint32(8) * 2 ** 32 + v.getUint32(12) : short === 0 ? end - at : short;
      if (size < 8) break;
      if (asciiText(head.subarray(4, 8)) === name) {
        found = { body: at + (wide ? 16 : 8), end: Math.min(end, at + size) };
        break;
      }
      at += size;
    }
    if (!found) return [];
    // `meta` carries four bytes of version and flags before its boxes.
    begin = found.body + (name === 'meta' ? 4 : 0);
    end = found.end;
  }
  const value = await source.read(begin, 10);
  return value.length >= 10 ? tempoClaim(view(value).getUint16(8), 'mp4') : [];
}
