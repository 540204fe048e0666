import type { Evidence, Family, OwnWord } from '../naming';
import type { SongMapFile } from '../time';

/** Key of the top level in {@link SessionState.children}. */
export const ROOT = 'root';

/** In the place of a bus: not routed on; only sends, if any, carry it further. */
export const NOWHERE = 'nowhere';

/** What goes to a bus beside the way of the track, or of the sum, itself. */
export interface Send {
  /** A return. */
  readonly busId: string;
  /** dB. */
  readonly gainDb: number;
  /** −1 left … 1 right; null = that of what sends. */
  readonly pan: number | null;
  /** Taken before the level of what sends, or after it. */
  readonly before: boolean;
}

/** What a person or the house style can set on a track. */
export interface TrackFields {
  /** Name in the session. */
  readonly name: string;
  readonly family: Family;
  readonly part: string | null;
  readonly role: string | null;
  readonly position: string | null;
  readonly side: string | null;
  readonly number: number | null;
  /** `#rrggbb`; null = not coloured yet. */
  readonly color: string | null;
  /** Bus it is routed to; null = the mix bus; or {@link NOWHERE}. */
  readonly busId: string | null;
  /** One to a bus at most. */
  readonly sends: readonly Send[];
  /** dB; default 0. */
  readonly gainDb: number;
  /** −1 left … 1 right; default 0. */
  readonly pan: number;
  readonly muted: boolean;
  /** First frame in the session, at the session rate; 0 = the common zero. */
  readonly startFrames: number;
  /** Played and handed over with polarity turned over; the file stays. */
  readonly inverted: boolean;
  /** The side of a stereo file that stands for both, which makes it mono; null = as it is. */
  readonly monoFrom: 'left' | 'right' | null;
  /** Recorded at another rate than the session's, it is not converted: its samples play at the session's, at another speed and pitch. */
  readonly keepsSamples: boolean;
  /** For notes: whether they keep their bars or their moments; null = a sound. */
  readonly tiedTo: 'bars' | 'time' | null;
  /** How sure family and name are, 0–1; 1 once a person said so. */
  readonly confidence: number;
  readonly evidence: readonly Evidence[];
  /** Fields set by a person; rules leave them alone. */
  readonly byHand: readonly string[];
}

/** Names of all fields that `track.change` may set. */
export const TRACK_FIELDS = [
  'name',
  'family',
  'part',
  'role',
  'position',
  'side',
  'number',
  'color',
  'busId',
  'sends',
  'gainDb',
  'pan',
  'muted',
  'startFrames',
  'inverted',
  'monoFrom',
  'keepsSamples',
  'tiedTo',
  'confidence',
  'evidence',
  'byHand',
] as const satisfies readonly (keyof TrackFields)[];

/** What tracks were before these fields were known: logs written then read as if it had stood there. */
export const LATER_TRACK_FIELDS = {
  sends: [],
  inverted: false,
  monoFrom: null,
  keepsSamples: false,
  tiedTo: null,
} as const satisfies Partial<TrackFields>;

/** One recording, or the notes of a file, in its place. */
export interface Track extends TrackFields {
  readonly kind: 'track';
  readonly id: string;
  readonly recordingId: string;
  /** Name of the file as it came. */
  readonly receivedName: string;
}

/** A row that holds others. */
export interface Folder {
  readonly kind: 'folder';
  readonly id: string;
  readonly name: string;
  readonly color: string | null;
  /** Its sum bus; null = none. */
  readonly busId: string | null;
}

/** A sum, or a return. */
export interface Bus {
  readonly id: string;
  readonly name: string;
  readonly color: string | null;
  /** A sum takes what is routed to it, a return what is sent. */
  readonly kind: 'sum' | 'return';
  /** Where it goes; null = the mix bus; or {@link NOWHERE}. */
  readonly outputBusId: string | null;
  /** One to a bus at most. */
  readonly sends: readonly Send[];
  /** Fields set by a person; the house style leaves them alone. */
  readonly byHand: readonly string[];
}

/** What can be set on a bus. */
export const BUS_FIELDS = [
  'name',
  'color',
  'outputBusId',
  'sends',
  'byHand',
] as const satisfies readonly (keyof Bus)[];

/** What buses were before these fields were known. */
export const LATER_BUS_FIELDS = { kind: 'sum', sends: [], byHand: [] } as const satisfies Partial<Bus>;

/** Tracks that are edited as one. */
export interface Group {
  readonly id: string;
  readonly name: string;
  /** Those of tracks that went are kept and do nothing. */
  readonly trackIds: readonly string[];
  /** Put aside, its tracks are edited one by one; its level holds. */
  readonly on: boolean;
  /** Added to the level of each, without routing it anywhere, dB. */
  readonly gainDb: number;
  /** Made or changed by a person: the house style leaves it alone. */
  readonly byHand: boolean;
}

/** What was found with a map. */
export interface MapFacts {
  /** True only if one tempo holds throughout. */
  readonly steady: boolean;
  /** Pulses a minute; null unless steady. */
  readonly bpm: number | null;
  /** How far off one tempo may be at the song's end, s; missing = not measured. */
  readonly endErrorSeconds?: number | undefined;
  /** Job of the detection it came from; null = made otherwise. */
  readonly foundBy: string | null;
  /** As measured or set by hand, whatever points the map makes of them. */
  readonly pulses: readonly MapPulse[];
  /** Places somebody listened to, and whether the click was right there. */
  readonly checked?: readonly { readonly seconds: number; readonly right: boolean }[] | undefined;
}

/** A pulse of a map. */
export interface MapPulse {
  readonly seconds: number;
  /** 0–1. */
  readonly confidence: number;
  /** How sure a bar begins here, 0–1; missing = bars were set by hand. */
  readonly begins?: number | undefined;
  /** Set by hand: nothing moves it. */
  readonly pinned?: boolean | undefined;
}

/** A map put by, to go back to. */
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

/** How material follows a new tempo: cut and moved, held by a phase vocoder, moved without stretching, or tied to time (it stays where it is). */
export type ConformMethod = 'slices' | 'held' | 'none' | 'still';

/** All methods. */
export const CONFORM_METHODS = [
  'slices',
  'held',
  'none',
  'still',
] as const satisfies readonly ConformMethod[];

/** Length of the phase vocoder's block: what is held longest without beating against what is hit sharpest. */
export type BlockLength = 'long' | 'middle' | 'short';

/** All block lengths. */
export const BLOCK_LENGTHS = ['long', 'middle', 'short'] as const satisfies readonly BlockLength[];

/** A method and, where it is held, the block. */
export interface Treatment {
  readonly method: ConformMethod;
  readonly block: BlockLength;
}

/** Bars from the first to the last, both included, as the played map counts them. */
export interface BarRange {
  readonly fromBar: number;
  readonly toBar: number;
}

/** An accepted conforming. The map as played stays; which of the two is heard and handed over is `heard`. */
export interface ConformSettings {
  /** Pulses a minute. */
  readonly bpm: number;
  /** Choices of the person by track id; other tracks get what suits their family. */
  readonly treatments: Readonly<Record<string, Treatment>>;
  /** Bars tied to time: they keep the tempo they were played in; missing = none. */
  readonly keep?: readonly BarRange[];
  readonly heard: 'played' | 'conformed';
}

/** Which house style a session follows. */
export interface StyleRef {
  readonly id: string;
  readonly version: number;
}

/** A named place of the song. */
export interface Marker {
  readonly id: string;
  readonly name: string;
  /** In the time as played. */
  readonly seconds: number;
}

/** A session: immutable, changed only by edits. */
export interface SessionState {
  readonly name: string;
  readonly artist: string;
  readonly notes: string;
  /** Null until the first recording says it. */
  readonly sampleRateHz: number | null;
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
  /** Track ids chosen to keep the time; null = let the detection choose. */
  readonly timekeepers: readonly string[] | null;
  /** It is handed over from so many bars before the first downbeat, and what lies before is cut; null = from wherever sound begins. */
  readonly cutBars: number | null;
  /** What words of names mean in this delivery; they go before those of the house style. */
  readonly words: readonly OwnWord[];
  /** Null = the style every house begins with. */
  readonly style: StyleRef | null;
  /** In order of time. */
  readonly markers: readonly Marker[];
  /** Null = as played. */
  readonly conform: ConformSettings | null;
}

/** A session with nothing in it. */
export const emptySession = (name: string, artist = '', notes = ''): SessionState => ({
  name,
  artist,
  notes,
  sampleRateHz: null,
  nodes: {},
  children: { [ROOT]: [] },
  buses: {},
  busOrder: [],
  groups: [],
  map: null,
  mapFacts: null,
  keptMaps: [],
  timekeepers: null,
  cutBars: null,
  words: [],
  style: null,
  markers: [],
  conform: null,
});

/** Whether a node is a track. */
export const isTrack = (node: Track | Folder | undefined): node is Track => node?.kind === 'track';

/** Whether a node is a folder. */
export const isFolder = (node: Track | Folder | undefined): node is Folder => node?.kind === 'folder';

/** Longest notes of a session, characters. */
export const MOST_NOTES = 4000;
