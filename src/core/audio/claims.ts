import { roundTo } from '../units';

/** Where in a file a claim stands. */
export type ClaimSource =
  'loop-info' | 'id3' | 'id3-tempo-codes' | 'bext' | 'info' | 'ixml' | 'aiff-text' | 'tag' | 'mp4' | 'midi';

/** A tempo that a file claims; often a wrong default of the recorder. */
export interface TempoClaim {
  /** Pulses a minute. */
  readonly bpm: number;
  /** Beats the file says to hold, where it says so: with the length they show whether the claim can be right. */
  readonly beats: number | null;
  readonly source: ClaimSource;
}

/** Something else a file says of itself or its song. */
export interface SaidText {
  readonly kind:
    'title' | 'artist' | 'album' | 'key' | 'comment' | 'project' | 'scene' | 'take' | 'originator' | 'made';
  readonly text: string;
  readonly source: ClaimSource;
}

/** What a file says beside its sound. Claims only: nothing here is applied by itself. */
export interface SoundMetadata {
  /** Frames since midnight at the file's rate (EBU Tech 3285 TimeReference); null when the file has none. */
  readonly timeReferenceFrames: number | null;
  readonly tempoClaims: readonly TempoClaim[];
  /** Marked places in order of time. */
  readonly markers: readonly { readonly frame: number; readonly label: string }[];
  /** Names of the channels, as the recorder wrote them. */
  readonly trackNames: readonly string[];
  readonly texts: readonly SaidText[];
}

/** A file that says nothing. */
export const NO_METADATA: SoundMetadata = {
  timeReferenceFrames: null,
  tempoClaims: [],
  markers: [],
  trackNames: [],
  texts: [],
};

/** A claim, unless no music has such a tempo. */
export const tempoClaim = (bpm: number, source: ClaimSource, beats: number | null = null): TempoClaim[] =>
  bpm > 10 && bpm < 1000 ? [{ bpm: roundTo(bpm, 4), beats, source }] : [];

/** A claim written as text, with a point or a comma. */
export const tempoText = (text: string, source: ClaimSource): TempoClaim[] =>
  tempoClaim(Number.parseFloat(text.replace(',', '.')), source);

const TAG_KINDS: Readonly<Record<string, SaidText['kind']>> = {
  title: 'title',
  artist: 'artist',
  album: 'album',
  comment: 'comment',
  description: 'comment',
  initialkey: 'key',
  key: 'key',
  tkey: 'key',
};

/** Tags as name and value, as Vorbis comments and most containers keep them; names in any case (RFC 9639 §8.6). */
export function metadataFromTags(tags: Readonly<Record<string, string>>): SoundMetadata {
  const tempoClaims: TempoClaim[] = [];
  const texts: SaidText[] = [];
  for (const [name, value] of Object.entries(tags)) {
    const key = name.toLowerCase();
    const kind = TAG_KINDS[key];
    if (key === 'bpm' || key === 'tempo' || key === 'tbpm' || key === 'tmpo')
      tempoClaims.push(...tempoText(value, 'tag'));
    else if (kind && value.trim() !== '')
      texts.push({ kind, text: value.trim().slice(0, 500), source: 'tag' });
  }
  return { ...NO_METADATA, tempoClaims, texts };
}
