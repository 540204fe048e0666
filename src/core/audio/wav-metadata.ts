import { asciiText, roundTo, utf8Text, type ByteSource } from '../units';
import { view, wavChunks } from './wav-chunks';

/** What a WAV file says beside its sound. Claims only: nothing here is applied by itself. */
export interface WavMetadata {
  /** Frames since midnight at the file's rate (EBU Tech 3285 TimeReference); null when the file has none. */
  readonly timeReferenceFrames: number | null;
  /** Tempi the file claims, pulses a minute; often a wrong default of the recorder. */
  readonly tempoClaims: readonly { readonly bpm: number; readonly source: 'loop-info' | 'id3' }[];
  /** Cue points in order of time. */
  readonly markers: readonly { readonly frame: number; readonly label: string }[];
  /** Names of the channels, as the recorder wrote them. */
  readonly trackNames: readonly string[];
}

const MAX_CHUNK_BYTES = 1 << 20;

/**
 * Reads `bext`, `cue `/`adtl`, `iXML`, `acid` (loop info) and ID3 tempo of a WAV file; anything broken is left out.
 * Sources: EBU Tech 3285 v2, Multimedia Programming Interface 1.0, iXML open specification, ID3v2.4 §4.2.3.
 */
export async function readWavMetadata(source: ByteSource): Promise<WavMetadata> {
  let timeReferenceFrames: number | null = null;
  const tempoClaims: { bpm: number; source: 'loop-info' | 'id3' }[] = [];
  const cues = new Map<number, number>();
  const labels = new Map<number, string>();
  let described: string[] = [];
  let listed: string[] = [];
  const claim = (bpm: number | null, from: 'loop-info' | 'id3'): void => {
    if (bpm !== null && bpm > 10 && bpm < 1000) tempoClaims.push({ bpm: roundTo(bpm, 4), source: from });
  };
  for await (const { id, body, sizeBytes } of wavChunks(source)) {
    if (!['bext', 'cue ', 'LIST', 'iXML', 'acid', 'id3 ', 'ID3 '].includes(id)) continue;
    const bytes = await source.read(body, Math.min(sizeBytes, MAX_CHUNK_BYTES));
    const v = view(bytes);
    if (id === 'bext' && bytes.length >= 346) {
      timeReferenceFrames = v.getUint32(342, true) * 2 ** 32 + v.getUint32(338, true);
      // Field recorders name channels in the description: sTRK1=Name.
      described = [...asciiText(bytes.subarray(0, 256)).matchAll(/[sz]TRK\d+=([^\r\n]+)/g)].map((m) => (m[1] as string).trim());
    } else if (id === 'cue ' && bytes.length >= 4) {
      for (let i = 0, at = 4; i < v.getUint32(0, true) && at + 24 <= bytes.length; i++, at += 24) cues.set(v.getUint32(at, true), v.getUint32(at + 20, true));
    } else if (id === 'LIST' && asciiText(bytes.subarray(0, 4)) === 'adtl') readLabels(bytes, labels);
    else if (id === 'iXML') listed = trackNamesOf(utf8Text(bytes));
    // 24 bytes: flags (1 = one-shot: no tempo), …, float tempo at 20.
    else if (id === 'acid' && bytes.length >= 24) claim(v.getUint32(0, true) & 1 ? null : v.getFloat32(20, true), 'loop-info');
    else if (id === 'id3 ' || id === 'ID3 ') claim(id3Tempo(bytes), 'id3');
  }
  const markers = [...cues].map(([id, frame]) => ({ frame, label: labels.get(id) ?? '' })).sort((a, b) => a.frame - b.frame);
  return { timeReferenceFrames, tempoClaims, markers, trackNames: listed.length > 0 ? listed : described };
}

function readLabels(list: Uint8Array, labels: Map<number, string>): void {
  const v = view(list);
  for (let at = 4; at + 8 <= list.length; ) {
    const size = v.getUint32(at + 4, true);
    if (asciiText(list.subarray(at, at + 4)) === 'labl' && size >= 4 && at + 8 + size <= list.length) labels.set(v.getUint32(at + 8, true), utf8Text(list.subarray(at + 12, at + 8 + size)).replace(/\0.*$/s, ''));
    at += 8 + size + (size % 2);
  }
}

/** Track names of iXML in the order of the channels in this file. */
function trackNamesOf(xml: string): string[] {
  const tracks = [...xml.matchAll(/<TRACK>(.*?)<\/TRACK>/gs)].map((m) => m[1] as string);
  const field = (track: string, name: string): string | undefined => new RegExp(`<${name}>([^<]*)</${name}>`).exec(track)?.[1];
  const plain = (text: string): string => text.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&quot;/g, '"').replace(/&apos;/g, "'").replace(/&amp;/g, '&').trim();
  return tracks
    .map((t, i) => ({ index: Number(field(t, 'INTERLEAVE_INDEX') ?? i + 1), name: plain(field(t, 'NAME') ?? '') }))
    .sort((a, b) => a.index - b.index)
    .map((t) => t.name)
    .filter((n) => n !== '');
}

/** TBPM of an ID3v2.3 or 2.4 tag; null when there is none. */
function id3Tempo(tag: Uint8Array): number | null {
  if (asciiText(tag.subarray(0, 3)) !== 'ID3' || tag.length < 20) return null;
  const four = (tag[3] as number) >= 4;
  const v = view(tag);
  const syncSafe = (at: number): number => ((tag[at] as number) << 21) | ((tag[at + 1] as number) << 14) | ((tag[at + 2] as number) << 7) | (tag[at + 3] as number);
  for (let at = 10; at + 11 <= tag.length; ) {
    const size = four ? syncSafe(at + 4) : v.getUint32(at + 4);
    if (size === 0) return null;
    // Digits read the same in every encoding once the zero bytes and marks of UTF-16 are gone.
    if (asciiText(tag.subarray(at, at + 4)) === 'TBPM') return Number.parseFloat([...tag.subarray(at + 11, at + 10 + size)].filter((b) => (b >= 48 && b <= 57) || b === 46).map((b) => String.fromCharCode(b)).join('')) || null;
    at += 10 + size;
  }
  return null;
}
