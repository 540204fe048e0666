import { asciiText } from '../units';
import { isAiff } from './aiff-chunks';
import { isWav } from './wav-reader';

/** What a file is by its first bytes; its name says nothing. */
export type FileKind =
  'wav' | 'aiff' | 'flac' | 'caf' | 'w64' | 'mp4' | 'mp3' | 'aac' | 'ogg' | 'zip' | 'midi' | 'unknown';

const SOUND_NAME = /\.(wave?|bwf|rf64|w64|aiff?|aifc|caf|flac|mp3|m4a|aac|ogg|oga|opus|midi?|zip)$/i;

/** Whether a file is called like something that can be taken in; what it is, its first bytes say. */
export const isSoundName = (name: string): boolean => SOUND_NAME.test(name);

/** How many first bytes {@link fileKind} wants. */
export const KIND_BYTES = 64;

// Sony Wave64 begins with the GUID 66666972-912E-11CF-A5D6-28DB04C10000: “riff” in small letters.
const W64 = [0x72, 0x69, 0x66, 0x66, 0x2e, 0x91, 0xcf, 0x11];

/**
 * Tells a file by its first bytes. Sources: RFC 9639 (FLAC), RFC 3533 (Ogg), ISO/IEC 14496-12 (`ftyp`), ISO/IEC 11172-3 and 13818-7 (frame sync), MMA RP-001 (MIDI),
 * PKWARE APPNOTE (ZIP); CAF and W64 from memory.
 */
export function fileKind(head: Uint8Array): FileKind {
  const four = asciiText(head.subarray(0, 4));
  if (isWav(head)) return 'wav';
  if (isAiff(head)) return 'aiff';
  if (four === 'fLaC') return 'flac';
  if (four === 'caff') return 'caf';
  if (four === 'OggS') return 'ogg';
  if (four === 'MThd' || (four === 'RIFF' && asciiText(head.subarray(8, 12)) === 'RMID')) return 'midi';
  if (four === 'PK\x03\x04' || four === 'PK\x05\x06') return 'zip';
  if (W64.every((b, i) => head[i] === b)) return 'w64';
  if (asciiText(head.subarray(4, 8)) === 'ftyp') return 'mp4';
  if (four.startsWith('ID3')) return 'mp3';
  return mpegKind(head);
}

/** A frame of MPEG audio: eleven bits of sync; layer bits of zero are those of ADTS. */
function mpegKind(head: Uint8Array): FileKind {
  const [first = 0, second = 0, third = 0] = head;
  if (first !== 0xff || (second & 0xe0) !== 0xe0) return 'unknown';
  if ((second & 0xf6) === 0xf0) return 'aac';
  // Version 01, layer 00, rate 11 and bit rate 1111 do not exist.
  const possible =
    (second & 0x18) !== 0x08 && (second & 0x06) !== 0 && (third & 0x0c) !== 0x0c && (third & 0xf0) !== 0xf0;
  return possible ? 'mp3' : 'unknown';
}
