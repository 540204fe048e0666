import { BUS } from './bus';
import { CLIP } from './clip';
import { COMP } from './comp';
import { FOLDER } from './folder';
import { GROUP } from './group';
import type { Values } from './kind';
import { LANE } from './lane';
import { MAP } from './map';
import { MARKER } from './marker';
import { SEND } from './send';
import { SONG } from './song';
import { TRACK } from './track';
import { WORD } from './word';

/** All kinds of record: a session's state is records of these, and nothing else. */
export const KINDS = {
  song: SONG,
  folder: FOLDER,
  track: TRACK,
  lane: LANE,
  clip: CLIP,
  comp: COMP,
  bus: BUS,
  send: SEND,
  group: GROUP,
  marker: MARKER,
  word: WORD,
  map: MAP,
} as const;

/** Kind of a record. */
export type RecordKind = keyof typeof KINDS;

/** All kinds of record. */
export const RECORD_KINDS = Object.keys(KINDS) as readonly RecordKind[];

/** The fields of a kind, without the id. */
export type FieldsOf<K extends RecordKind> = Values<(typeof KINDS)[K]['fields']>;

/** A record of a kind. Its id is no other record's of the session. */
export type RecordOf<K extends RecordKind> = { readonly id: string } & FieldsOf<K>;

/** A session as records, by kind and id. */
export type SessionRecords = { readonly [K in RecordKind]: Readonly<Record<string, RecordOf<K>>> };

/** Id of the one record of what is said of the song. */
export const SONG_ID = 'song';

export { FADE_SHAPES, type FadeShape, WHOLE_CLIP } from './clip';
export { type ColumnType, type Field, type Merge, type Reference } from './field';
export { type Kind } from './kind';
export { TAKE_RATINGS, type TakeRating } from './lane';
export { type MapContent, type MapFacts, type MapPulse } from './map';
export { mapFileSchema } from './map-file';
export { NOWHERE } from './nowhere';
export { type Column, ids, isOwnId, numbers, plainList, rows } from './plain-rows';
export {
  type BarRange,
  BLOCK_LENGTHS,
  type BlockLength,
  CONFORM_METHODS,
  CONFORM_SCHEMAS,
  type ConformMethod,
  type ConformSettings,
  MOST_NOTES,
  type StyleRef,
  type Treatment,
  TREATMENT_SCHEMAS,
} from './song';
export { uuid } from './uuid';
export { NOUN, PLAIN_WORDS } from './word';
