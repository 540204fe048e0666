export { firstLaneId, isUncut, lanesOf, wholeClip, withEdges } from './clips';
export {
  type Bus,
  BUS_FIELDS,
  type Clip,
  emptySession,
  type Folder,
  type Group,
  isFolder,
  isTrack,
  type KeptMap,
  type Lane,
  type Marker,
  MOST_KEPT_MAPS,
  type NewTrack,
  ROOT,
  type Send,
  type SessionState,
  type Track,
  type TrackFields,
  TRACK_FIELDS,
} from './state';
export {
  type BarRange,
  BLOCK_LENGTHS,
  type BlockLength,
  CONFORM_METHODS,
  CONFORM_SCHEMAS,
  type ConformMethod,
  type ConformSettings,
  FADE_SHAPES,
  type FadeShape,
  type Field,
  type FieldsOf,
  isOwnId,
  ids,
  type Kind,
  KINDS,
  type MapFacts,
  mapFileSchema,
  type MapPulse,
  MOST_NOTES,
  NOUN,
  NOWHERE,
  numbers,
  PLAIN_WORDS,
  RECORD_KINDS,
  type RecordKind,
  type RecordOf,
  rows,
  type SessionRecords,
  SONG_ID,
  type StyleRef,
  type Treatment,
  uuid,
} from './records';
export { recordsOf, stateOf } from './state-of-records';
export { type EditFault } from './checks';
export {
  applyEdits,
  concerns,
  type Edit,
  type Patch,
  type Put,
  recordIn,
  recordsIn,
  recordsWrittenAs,
  type Remove,
} from './edits';
export {
  applyChanges,
  asTrack,
  type Change,
  type Changed,
  type Move,
  MOVE_KINDS,
  type MoveKind,
} from './moves';
export {
  listRows,
  noteTracks,
  pathOf,
  type SessionRow,
  soundTracks,
  tracksInOrder,
  tracksUnder,
} from './views';
export { hasLoop, reachesMix, routedTo, type RoutingNote, routingNotes, sumsByFolder } from './routing';
export {
  canSplit,
  commonName,
  type JoinedSide,
  joinEdits,
  leftFirst,
  type PairFault,
  pairFault,
  sidesOf,
  splitEdits,
} from './pairs';
export { groupsOf, levelDb, membersOf, withGroups } from './groups';
export { keepSamplesEdits, keptRecordings, majorityRate, passingRate, rateEdits, repitch } from './rate';
export { difference, type EditSummary, summarizeEdits } from './difference';
export { backTo, type Choice, type Conflict, rebase, type Rebased } from './rebase';
export {
  type AskedBatch,
  type Batch,
  goneOn,
  withBatches,
  type HeldSession,
  holdSession,
  type PendingBatch,
  shownSession,
  withPending,
} from './pending';
export {
  type LogAnswer,
  type LogEntry,
  nextRedo,
  nextUndo,
  redoable,
  stateAt,
  type StateThen,
  undoable,
} from './history';
export {
  arrivedLater,
  type KnownRecording,
  needless,
  type NeedlessRecording,
  noticed,
  remedyEdits,
  sourcesOf,
  takeOutEdits,
} from './noticed';
