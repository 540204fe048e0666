import type { OwnWord } from '../naming';
import type { SongMapFile } from '../time';
import { type FieldsOf, type MapFacts, type RecordOf, KINDS, type RecordKind } from './records';

/** Key of the top level in {@link SessionState.children}. */
export const ROOT = 'root';

/** What goes to a bus beside the way of the track, or of the sum, itself. */
export type Send = Omit<FieldsOf<'send'>, 'trackId' | 'sourceBusId' | 'orderKey'>;

/** Fields of a lane that are said of its track: those of the one that stands for it. */
type LaneFields = Omit<FieldsOf<'lane'>, 'trackId'>;

/** A recording, or a take of it, in its place on a track. */
export type Lane = Omit<RecordOf<'lane'>, 'trackId'>;

/** A stretch of a track in which one of its lanes sounds. */
export type Clip = RecordOf<'clip'>;

/** One way in which a track was put together, kept under a name. */
export type Comp = Omit<RecordOf<'comp'>, 'trackId'>;

/** What a person or the house style can set on a track. */
export type TrackFields = Omit<FieldsOf<'track'>, 'parentId' | 'orderKey'> &
  Omit<LaneFields, 'recordingId' | 'receivedName'> & {
    /** One to a bus at most. */
    readonly sends: readonly Send[];
    /** What sounds of its lanes, in order of time. */
    readonly clips: readonly Clip[];
  };

/** A recording, or the notes of a file, in its place; with its other takes, and what sounds of them. */
export type Track = TrackFields &
  LaneFields & {
    readonly kind: 'track';
    readonly id: string;
    /** The lane whose fields are said of the track: the one that most of its pieces are of, else that with the lowest number. */
    readonly laneId: string;
    /** Its other lanes, by their numbers. */
    readonly otherLanes: readonly Lane[];
    /** Kept ways of putting it together, by name. */
    readonly comps: readonly Comp[];
  };

/** What of a track is as at first where nothing was said. */
type NewParts =
  | 'laneId'
  | 'otherLanes'
  | 'clips'
  | 'comps'
  | 'compId'
  | 'takeNumber'
  | 'takeName'
  | 'takeRating'
  | 'takeNote'
  | 'takeAside';

/** A track as it may be added: what is left out is as at first, and all of it sounds. */
export type NewTrack = Omit<Track, NewParts> & Partial<Track>;

/** A row that holds others. */
export type Folder = Omit<RecordOf<'folder'>, 'parentId' | 'orderKey'> & { readonly kind: 'folder' };

/** A sum, or a return. */
export type Bus = Omit<RecordOf<'bus'>, 'orderKey'> & {
  /** One to a bus at most. */
  readonly sends: readonly Send[];
};

/** Tracks that are edited as one. */
export type Group = Omit<RecordOf<'group'>, 'orderKey'>;

/** A named place of the song. */
export type Marker = RecordOf<'marker'>;

/** A map that was saved to go back to. */
export interface KeptMap {
  readonly id: string;
  readonly name: string;
  readonly map: SongMapFile;
  readonly facts: MapFacts | null;
  /** How the song was played, as against what it might become; one at most is marked so. */
  readonly played?: boolean | undefined;
}

/** More maps than anybody compares. */
export const MOST_KEPT_MAPS = 12;

const settable = (kind: RecordKind): string[] =>
  Object.entries(KINDS[kind].fields)
    .filter(([, f]) => !f.isReceived && !f.refersTo?.isOwner)
    .map(([name]) => name)
    .filter((name) => name !== 'parentId' && name !== 'orderKey');

/** Names of all fields that can be set on a track. */
export const TRACK_FIELDS = [
  ...settable('track'),
  ...settable('lane'),
  'sends',
  'clips',
] as readonly (keyof TrackFields)[];

/** Names of all fields that can be set on a bus once it is there. */
export const BUS_FIELDS = [
  'name',
  'color',
  'outputBusId',
  'gainDb',
  'pan',
  'muted',
  'sends',
  'byHand',
] as const satisfies readonly (keyof Bus)[];

/** A session as its rows stand: immutable, changed only by edits of its records. */
export interface SessionState extends FieldsOf<'song'> {
  readonly nodes: Readonly<Record<string, Track | Folder>>;
  /** Order of rows: ids under {@link ROOT} and under each folder. */
  readonly children: Readonly<Record<string, readonly string[]>>;
  readonly buses: Readonly<Record<string, Bus>>;
  readonly busOrder: readonly string[];
  readonly groups: readonly Group[];
  /** Accepted tempo map; null = none yet. */
  readonly map: SongMapFile | null;
  readonly mapFacts: MapFacts | null;
  readonly keptMaps: readonly KeptMap[];
  /** What words of names mean in this delivery; they go before those of the house style. */
  readonly words: readonly OwnWord[];
  /** In order of time. */
  readonly markers: readonly Marker[];
  /** Keys by which rows, buses, sends, groups, words and saved maps stand in order, by the id of the record; what has none stands where the lists say. */
  readonly orderKeys: Readonly<Record<string, string>>;
}

/** A session with nothing in it. */
export const emptySession = (name: string, artist = '', notes = ''): SessionState => ({
  name,
  artist,
  notes,
  key: '',
  sampleRateHz: null,
  timekeepers: null,
  cutBars: null,
  style: null,
  conform: null,
  nodes: {},
  children: { [ROOT]: [] },
  buses: {},
  busOrder: [],
  groups: [],
  map: null,
  mapFacts: null,
  keptMaps: [],
  words: [],
  markers: [],
  orderKeys: {},
});

/** Whether a node is a track. */
export const isTrack = (node: Track | Folder | undefined): node is Track => node?.kind === 'track';

/** Whether a node is a folder. */
export const isFolder = (node: Track | Folder | undefined): node is Folder => node?.kind === 'folder';
