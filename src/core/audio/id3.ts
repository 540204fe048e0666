import { asciiText, utf8Text } from '../units';
import { view } from './wav-chunks';
import { tempoText, type SaidText, type TempoClaim } from './claims';

/** What an ID3v2 tag says of the song. */
export interface Id3Facts {
  readonly tempoClaims: readonly TempoClaim[];
  readonly texts: readonly SaidText[];
}

const TEXT_FRAMES: Readonly<Record<string, SaidText['kind']>> = {
  TIT2: 'title',
  TPE1: 'artist',
  TALB: 'album',
  TKEY: 'key',
};

/**
 * Reads tempo, title, artist, album and key of an ID3v2.3 or 2.4 tag; anything broken is left out.
 * Source: ID3v2.3 and ID3v2.4 (id3.org informal standards): TBPM §4.2.3, SYTC §4.7.
 */
export function readId3(tag: Uint8Array): Id3Facts {
  const tempoClaims: TempoClaim[] = [];
  const texts: SaidText[] = [];
  for (const { id, body } of frames(tag)) {
    const kind = TEXT_FRAMES[id];
    if (kind) {
      const text = textOf(body).trim();
      if (text !== '') texts.push({ kind, text, source: 'id3' });
    } else if (id === 'TBPM') tempoClaims.push(...tempoText(textOf(body), 'id3'));
    else if (id === 'SYTC') tempoClaims.push(...firstTempoCode(body));
  }
  return { tempoClaims, texts };
}

function* frames(tag: Uint8Array): Generator<{ readonly id: string; readonly body: Uint8Array }> {
  if (asciiText(tag.subarray(0, 3)) !== 'ID3' || tag.length < 20) return;
  const four = (tag[3] as number) >= 4;
  const v = view(tag);
  for (let at = 10; at + 11 <= tag.length;) {
    const size = four ? syncSafe(tag, at + 4) : v.getUint32(at + 4);
    const id = asciiText(tag.subarray(at, at + 4));
    if (size === 0 || !/^[A-Z0-9]{4}$/.test(id)) return;
    yield { id, body: tag.subarray(at + 10, Math.min(tag.length, at + 10 + size)) };
    at += 10 + size;
  }
}

const syncSafe = (tag: Uint8Array, at: number): number =>
  ((tag[at] as number) << 21) |
  ((tag[at + 1] as number) << 14) |
  ((tag[at + 2] as number) << 7) |
  (tag[at + 3] as number);

/** Text of a frame whose first byte names its encoding: 0 Latin-1, 1 UTF-16 with mark, 2 UTF-16 big-endian, 3 UTF-8. Up to the first NUL. */
function textOf(body: Uint8Array): string {
  const bytes = body.subarray(1);
  const how = body[0];
  if (how === 0) return asciiText(bytes);
  if (how === 3) return utf8Text(bytes).replace(/\0.*$/s, '');
  const marked =
    bytes.length >= 2 &&
    ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff));
  const little = how === 1 && bytes[0] === 0xff;
  const v = view(bytes);
  let text = '';
  for (let at = marked ? 2 : 0; at + 2 <= bytes.length; at += 2) {
    const unit = v.getUint16(at, little);
    if (unit === 0) break;
    text += String.fromCharCode(unit);
  }
  return text;
}

/** The first tempo of a list of tempo codes: a byte of 2–254, or 255 and another byte added to it; 0 and 1 mean no tempo. */
function firstTempoCode(body: Uint8Array): TempoClaim[] {
  const first = body[1] ?? 0;
  const bpm = first === 255 ? 255 + (body[2] ?? 0) : first;
  return bpm > 10 ? [{ bpm, beats: null, source: 'id3-tempo-codes' }] : [];
}
