import { asciiText, utf8Text, type ByteSource } from '../units';
import { aiffChunks, isAiff } from './aiff-chunks';
import {
  NO_METADATA,
  tempoClaim,
  type ClaimSource,
  type SaidText,
  type SoundMetadata,
  type TempoClaim,
} from './claims';
import { readId3 } from './id3';
import { view, wavChunks } from './wav-chunks';
import { isWav } from './wav-reader';

const MAX_CHUNK_BYTES = 1 << 20;
const MAX_TEXT = 500;

/** What has been read so far; the two containers fill it alike. */
interface Reading {
  timeReferenceFrames: number | null;
  readonly tempoClaims: TempoClaim[];
  /** Marker number → frame, and → name. */
  readonly places: Map<number, number>;
  readonly labels: Map<number, string>;
  described: string[];
  listed: string[];
  readonly texts: SaidText[];
}

/** Metadata of a WAV or AIFF file; anything broken is left out, other files say nothing. */
export async function readSoundMetadata(source: ByteSource): Promise<SoundMetadata> {
  const head = await source.read(0, 12);
  const r: Reading = {
    timeReferenceFrames: null,
    tempoClaims: [],
    places: new Map(),
    labels: new Map(),
    described: [],
    listed: [],
    texts: [],
  };
  if (isWav(head)) await readWav(source, r);
  else if (isAiff(head)) await readAiff(source, r);
  else return NO_METADATA;
  const markers = [...r.places]
    .map(([id, frame]) => ({ frame, label: r.labels.get(id) ?? '' }))
    .sort((a, b) => a.frame - b.frame);
  return {
    timeReferenceFrames: r.timeReferenceFrames,
    tempoClaims: r.tempoClaims,
    markers,
    trackNames: r.listed.length > 0 ? r.listed : r.described,
    texts: r.texts,
  };
}

function say(r: Reading, kind: SaidText['kind'], raw: string | undefined, source: ClaimSource): void {
  const text = (raw ?? '').replace(/\0.*$/s, '').trim().slice(0, MAX_TEXT);
  if (text !== '') r.texts.push({ kind, text, source });
}

/**
 * Reads `bext`, `cue `/`adtl`, `LIST INFO`, `iXML`, `acid` (loop info) and ID3 of a WAV file.
 * Sources: EBU Tech 3285 v2, Multimedia Programming Interface 1.0, iXML open specification, ID3v2.4.
 */
async function readWav(source: ByteSource, r: Reading): Promise<void> {
  for await (const { id, body, sizeBytes } of wavChunks(source)) {
    if (!['bext', 'cue ', 'LIST', 'iXML', 'acid', 'id3 ', 'ID3 '].includes(id)) continue;
    const bytes = await source.read(body, Math.min(sizeBytes, MAX_CHUNK_BYTES));
    const v = view(bytes);
    if (id === 'bext') readBext(bytes, r);
    else if (id === 'cue ' && bytes.length >= 4) {
      for (let i = 0, at = 4; i < v.getUint32(0, true) && at + 24 <= bytes.length; i++, at += 24)
        r.places.set(v.getUint32(at, true), v.getUint32(at + 20, true));
    } else if (id === 'LIST') readList(bytes, r);
    else if (id === 'iXML') readIxml(utf8Text(bytes), r);
    // 24 bytes: flags (1 = one-shot: no tempo), …, beats at 12, float tempo at 20.
    else if (id === 'acid' && bytes.length >= 24) {
      if ((v.getUint32(0, true) & 1) === 0)
        r.tempoClaims.push(...tempoClaim(v.getFloat32(20, true), 'loop-info', v.getUint32(12, true) || null));
    } else if (id === 'id3 ' || id === 'ID3 ') takeId3(bytes, r);
  }
}

function takeId3(bytes: Uint8Array, r: Reading): void {
  const { tempoClaims, texts } = readId3(bytes);
  r.tempoClaims.push(...tempoClaims);
  r.texts.push(...texts);
}

function readBext(bytes: Uint8Array, r: Reading): void {
  if (bytes.length < 346) return;
  const v = view(bytes);
  r.timeReferenceFrames = v.getUint32(342, true) * 2 ** 32 + v.getUint32(338, true);
  const description = asciiText(bytes.subarray(0, 256));
  // Field recorders name channels in the description: sTRK1=Name.
  r.described = [...description.matchAll(/[sz]TRK\d+=([^\r\n]+)/g)].map((m) => (m[1] as string).trim());
  if (r.described.length === 0) say(r, 'comment', description, 'bext');
  say(r, 'originator', asciiText(bytes.subarray(256, 288)), 'bext');
  say(r, 'made', `${asciiText(bytes.subarray(320, 330))} ${asciiText(bytes.subarray(330, 338))}`, 'bext');
}

const INFO_KINDS: Readonly<Record<string, SaidText['kind']>> = {
  INAM: 'title',
  IART: 'artist',
  IPRD: 'album',
  ICMT: 'comment',
};

function readList(list: Uint8Array, r: Reading): void {
  const kind = asciiText(list.subarray(0, 4));
  const v = view(list);
  for (let at = 4; at + 8 <= list.length;) {
    const size = v.getUint32(at + 4, true);
    const id = asciiText(list.subarray(at, at + 4));
    const whole = at + 8 + size <= list.length;
    if (kind === 'adtl' && id === 'labl' && size >= 4 && whole)
      r.labels.set(
        v.getUint32(at + 8, true),
        utf8Text(list.subarray(at + 12, at + 8 + size)).replace(/\0.*$/s, ''),
      );
    else if (kind === 'INFO' && INFO_KINDS[id] && whole)
      say(r, INFO_KINDS[id], utf8Text(list.subarray(at + 8, at + 8 + size)), 'info');
    at += 8 + size + (size % 2);
  }
}

const field = (xml: string, name: string): string | undefined =>
  new RegExp(`<${name}>([^<]*)</${name}>`).exec(xml)?.[1];
const plain = (text: string): string =>
  text
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&apos;/g, "'")
    .replace(/&amp;/g, '&')
    .trim();

/** Track names of iXML in the order of the channels in this file, and what else is of use. */
function readIxml(xml: string, r: Reading): void {
  r.listed = [...xml.matchAll(/<TRACK>(.*?)<\/TRACK>/gs)]
    .map((m, i) => ({
      index: Number(field(m[1] as string, 'INTERLEAVE_INDEX') ?? i + 1),
      name: plain(field(m[1] as string, 'NAME') ?? ''),
    }))
    .sort((a, b) => a.index - b.index)
    .map((t) => t.name)
    .filter((n) => n !== '');
  for (const [name, kind] of [
    ['PROJECT', 'project'],
    ['SCENE', 'scene'],
    ['TAKE', 'take'],
    ['NOTE', 'comment'],
  ] as const)
    say(r, kind, plain(field(xml, name) ?? ''), 'ixml');
}

/** Reads `MARK`, `NAME`, `AUTH`, `ANNO` and ID3 of an AIFF file. Source: Audio Interchange File Format 1.3. */
async function readAiff(source: ByteSource, r: Reading): Promise<void> {
  for await (const { id, body, sizeBytes } of aiffChunks(source)) {
    if (!['MARK', 'NAME', 'AUTH', 'ANNO', 'ID3 ', 'id3 '].includes(id)) continue;
    const bytes = await source.read(body, Math.min(sizeBytes, MAX_CHUNK_BYTES));
    if (id === 'MARK') readMarks(bytes, r);
    else if (id === 'NAME') say(r, 'title', utf8Text(bytes), 'aiff-text');
    else if (id === 'AUTH') say(r, 'artist', utf8Text(bytes), 'aiff-text');
    else if (id === 'ANNO') say(r, 'comment', utf8Text(bytes), 'aiff-text');
    else takeId3(bytes, r);
  }
}

/** u16 count, then {i16 id, u32 frame, text with a length byte, padded to an even total}. */
function readMarks(bytes: Uint8Array, r: Reading): void {
  const v = view(bytes);
  const count = bytes.length >= 2 ? v.getUint16(0) : 0;
  for (let i = 0, at = 2; i < count && at + 7 <= bytes.length; i++) {
    const length = bytes[at + 6] as number;
    r.places.set(v.getInt16(at), v.getUint32(at + 2));
    r.labels.set(v.getInt16(at), utf8Text(bytes.subarray(at + 7, at + 7 + length)));
    at += 7 + length + ((length + 1) % 2);
  }
}
