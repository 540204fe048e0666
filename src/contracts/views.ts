import type { BalanceResult } from './balance';
import type { SectionsResult } from './sections';
import type { TakesResult } from './takes';
import type { ArrivalFacts, HeardFacts } from '@/core/analysis';
import type { SoundMetadata, SoundWarning } from '@/core/audio';
import type { Relations } from '@/core/findings';
import type { NoteFacts, SongMapFile } from '@/core/time';
import type { EditSummary, SessionState } from '@/core/session';
import type { HouseStyle } from '@/core/style';
import type { Fault } from './faults';
import type { Shelf } from './requests';

/** How a file used in place is now: as it was; not where it was; of the same size with another time stamp, so perhaps another; of another size. */
export type InPlaceState = 'there' | 'missing' | 'touched' | 'changed';

/** A MIDI file as the page sees it. */
export interface NotesView {
  /** Seconds and quarters of the file's own count, pitch, velocity; quarters are null where it counts in time. Of very many only the first. */
  readonly notes: readonly {
    readonly seconds: number;
    readonly lengthSeconds: number;
    readonly quarters: number | null;
    readonly lengthQuarters: number | null;
    readonly pitch: number;
    readonly velocity: number;
  }[];
  /** Notes left out. */
  readonly left: number;
  /** Tempo and meters it brings; null = it says no tempo. */
  readonly map: SongMapFile | null;
  readonly tempoChanges: number;
  readonly markers: readonly { readonly seconds: number; readonly text: string }[];
}

/** A recording as the page sees it. */
export interface RecordingView {
  readonly id: string;
  /** Name of the file as it came. */
  readonly receivedName: string;
  readonly sizeBytes: number;
  /** `waiting` for its pass, `arriving`, `ready`, or `failed` with a fault. */
  readonly state: 'waiting' | 'arriving' | 'ready' | 'failed';
  readonly fault: Fault | null;
  readonly sha256: string | null;
  readonly sampleRateHz: number | null;
  readonly channels: number | null;
  readonly encoding: string | null;
  readonly bitDepth: number | null;
  /** Frames at its own rate. */
  readonly lengthFrames: number | null;
  readonly facts: ArrivalFacts | null;
  readonly truePeakDbtp: number | null;
  /** Of a track of notes; null for sound, and for a MIDI file that holds none. */
  readonly notes: NoteFacts | null;
  /** What the file was: `wav`, `aiff`, `flac` …; null until it has arrived. */
  readonly container: string | null;
  /** Decoded from a codec that drops sound; its length is approximate. */
  readonly lossy: boolean;
  /** Its place among the channels of a file with many, from 0; null = the whole file. */
  readonly channelIndex: number | null;
  readonly metadata: SoundMetadata;
  readonly warnings: readonly SoundWarning[];
  /** Name of another recording of this session with the same bytes; null = none. */
  readonly sameAs: string | null;
  /** Rate at which its samples pass in the session, Hz: its own, unless they are kept as they are at the session's. */
  readonly passingHz: number | null;
  /** Rate it was converted to for the session; null = not converted. */
  readonly convertedToHz: number | null;
  /** Frames at the session rate, once known. */
  readonly sessionFrames: number | null;
  /** Used where it lies, not copied; null = it is in the store. */
  readonly inPlace: { readonly path: string; readonly state: InPlaceState } | null;
  /** The onset curves are there. */
  readonly listened: boolean;
  /** Whether its levels over time are known: what Tidy works from. */
  readonly hasLevels: boolean;
  /** What the listening pass made of it; null until then. */
  readonly heard: HeardFacts | null;
}

/** Kinds of job. */
export type JobKind =
  | 'recording.arrive'
  | 'recording.listen'
  | 'recording.convert'
  | 'pair.join'
  | 'session.relate'
  | 'places.find'
  | 'places.copy-in'
  | 'tempo.detect'
  | 'balance.find'
  | 'sections.find'
  | 'takes.find'
  | 'loudness.measure'
  | 'conform.render'
  | 'conform.audition'
  | 'package.build'
  | 'package.copy'
  | 'demo.make';

/** A job as the page sees it. */
export interface JobView {
  readonly id: string;
  readonly kind: JobKind;
  readonly sessionId: string | null;
  /** What it works on, for people. */
  readonly subject: string;
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  /** 0–1. */
  readonly progress: number;
  readonly fault: Fault | null;
  readonly createdAt: string;
  readonly finishedAt: string | null;
}

/** What a tempo detection found, kept as its job's result. */
export interface TempoResultView {
  readonly jobId: string;
  readonly result: unknown;
}

/** A package as the page sees it. */
export interface HandoverView {
  readonly id: string;
  readonly number: number;
  /** `removed`: its bytes were cleaned away. */
  readonly state: 'building' | 'done' | 'failed' | 'removed';
  readonly jobId: string | null;
  readonly sizeBytes: number | null;
  readonly folderName: string;
  /** The package as a folder on this machine; null until it is done. */
  readonly folderPath: string | null;
  /** Revision of the session it was made from. */
  readonly revision: number;
  readonly report: unknown;
  readonly fault: Fault | null;
  /** Folders on this machine it was written to as well. */
  readonly copies: readonly { readonly path: string; readonly at: string }[];
  readonly createdAt: string;
}

/** A named state of a session. */
export interface CheckpointView {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly at: string;
}

/** What was done to a session. */
export interface HistoryView {
  /** Newest first. */
  readonly steps: readonly {
    readonly revision: number;
    readonly label: string;
    readonly author: 'person' | 'intake' | 'demo' | 'style';
    readonly action: 'do' | 'undo' | 'redo';
    readonly at: string;
    /** A recording came in: no way back takes it away. */
    readonly arrival: boolean;
    /** Numbers of the packages made from this very state. */
    readonly handovers: readonly number[];
  }[];
  readonly checkpoints: readonly CheckpointView[];
}

/** What going back would do. */
export interface ReturnView {
  /** Revision it was worked out for. */
  readonly revision: number;
  /** Edits; 0 = the session is like that already. */
  readonly steps: number;
  readonly summary: EditSummary;
}

/** What a session takes on the disk, bytes. */
export interface SpaceView {
  readonly originalsBytes: number;
  /** Used where they lie: not in the sum. */
  readonly inPlaceBytes: number;
  /** Waveforms and onset curves. */
  readonly analysisBytes: number;
  /** Copies at the session's rate. */
  readonly convertedBytes: number;
  /** Conformed recordings as the session is now. */
  readonly conformedBytes: number;
  /** Auditions, and what was conformed or converted for settings that are no more. */
  readonly leftoverBytes: number;
  readonly packages: readonly { readonly id: string; readonly number: number; readonly sizeBytes: number }[];
  readonly freeBytes: number;
}

/** A folder of this machine that packages may be written to and recordings used from. */
export interface FolderView {
  /** Null = the list of all allowed folders. */
  readonly path: string | null;
  /** Where `..` leads; null at an allowed folder's top: to the list. */
  readonly parent: string | null;
  readonly folders: readonly { readonly name: string; readonly path: string }[];
  /** Files called like recordings. */
  readonly files: readonly { readonly name: string; readonly path: string; readonly sizeBytes: number }[];
  /** Files of other kinds. */
  readonly otherFiles: number;
  readonly freeBytes: number | null;
}

/** A conformed recording that can be played. */
export interface ConformedTrackView {
  readonly trackId: string;
  /** The lane of the track it was made of. */
  readonly laneId: string;
  /** Name of the sound, `conformed/<key>` for the server. */
  readonly key: string;
  readonly lengthFrames: number;
  /** Level that makes an audition as loud as the same bars as played, dB; 0 for whole recordings. */
  readonly matchDb: number;
}

/** How far the conforming of a session is. */
export interface ConformView {
  /** What is there already, of each lane that sounds. */
  readonly ready: readonly ConformedTrackView[];
  /** As many as are to be there in the end. */
  readonly wanted: number;
}

/** An audition, from its request to its sound. */
export interface AuditionView {
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  readonly tracks: readonly ConformedTrackView[];
  /** Where in the conformed song it begins. */
  readonly startFrames: number;
  readonly fault: Fault | null;
}

/** What a track strikes. */
export interface PlayedHits {
  readonly trackId: string;
  /** Rising, from the session's common zero. */
  readonly seconds: readonly number[];
  /** 0–1, one a hit. */
  readonly strength: readonly number[];
}

/** A session in the list. */
export interface SessionListItem {
  readonly id: string;
  readonly name: string;
  readonly artist: string;
  readonly revision: number;
  /** Songs of one delivery stand together under this name; empty = a song of its own. */
  readonly project: string;
  readonly trackCount: number;
  readonly recordingCount: number;
  readonly lengthSeconds: number;
  readonly sizeBytes: number;
  readonly hasMap: boolean;
  readonly handoverCount: number;
  readonly updatedAt: string;
  /** Jobs waiting or running, and how far the newest running one is (0–1). */
  readonly openJobs: number;
  /** When the last job ended: what a session shows may have changed then without a step of its own. Null = none yet. */
  readonly lastJobAt: string | null;
  readonly jobProgress: number | null;
  readonly shelf: Shelf;
  /** The demo as it was received. */
  readonly isDemo: boolean;
  /** When it came into the waste basket; null = it is not there. */
  readonly deletedAt: string | null;
}

/** The machine Fernmoss runs on. */
export interface MachineView {
  readonly version: string;
  /** Where recordings, packages and the database lie; that place itself is not told. */
  readonly freeBytes: number;
  /** Folders recordings are used from and packages written to. */
  readonly allowedFolders: readonly string[];
}

/** A finding put aside, by its key, and why. */
export interface DismissalView {
  readonly key: string;
  readonly note: string;
}

/** A house style in the list. */
export interface StyleListItem {
  readonly id: string;
  readonly name: string;
  /** New sessions follow it. */
  readonly isDefault: boolean;
  /** Newest first. */
  readonly versions: readonly {
    readonly version: number;
    /** What was changed, in a person's words; may be empty. */
    readonly note: string;
    readonly at: string;
    readonly sessions: readonly { readonly id: string; readonly name: string }[];
  }[];
}

/** A house style in one of its versions. */
export interface StyleView extends StyleListItem {
  readonly version: number;
  readonly style: HouseStyle;
}

/** Everything a page needs of one session. */
export interface SessionView {
  readonly id: string;
  readonly revision: number;
  /** As in {@link SessionNews}: what else than the session this view was made of. */
  readonly rest: string;
  readonly session: SessionState;
  /** The house style it follows. */
  readonly style: HouseStyle;
  /** Highest version of that style; null = it is the built-in one. */
  readonly styleNewest: number | null;
  readonly recordings: readonly RecordingView[];
  readonly jobs: readonly JobView[];
  /** When the open jobs of other sessions were asked for, if any of this one waits; the workers take them in that order. */
  readonly jobsElsewhere: readonly string[];
  readonly handovers: readonly HandoverView[];
  /** Null when nothing is to be conformed. */
  readonly conform: ConformView | null;
  /** What was found between recordings; ids are those of recordings. */
  readonly relations: Relations;
  /** Findings put aside. */
  readonly dismissals: readonly DismissalView[];
  /** Newest finished detection; null = none yet. */
  readonly tempo: TempoResultView | null;
  /** Levels and pans that were worked out last; null = none were. */
  readonly balance: BalanceResult | null;
  /** What was found last; null = nothing yet. */
  readonly sections: SectionsResult | null;
  /** What was found last; null = nothing was looked for yet. */
  readonly takes: TakesResult | null;
  /** The job that measured last how loud the tracks are; null = none did. */
  readonly measuredBy: string | null;
  /** Name of the step that undo or redo would take; null = none. */
  readonly undoLabel: string | null;
  readonly redoLabel: string | null;
  /** Bytes free where recordings are kept. */
  readonly freeBytes: number;
}
