export {
  type BarRange,
  BLOCK_LENGTHS,
  type BlockLength,
  type Bus,
  BUS_FIELDS,
  CONFORM_METHODS,
  type ConformMethod,
  type ConformSettings,
  emptySession,
  type Folder,
  type Group,
  isFolder,
  isTrack,
  type KeptMap,
  type MapFacts,
  type MapPulse,
  type Marker,
  MOST_KEPT_MAPS,
  MOST_NOTES,
  NOWHERE,
  ROOT,
  type Send,
  type SessionState,
  type StyleRef,
  type Track,
  type TrackFields,
  TRACK_FIELDS,
  type Treatment,
} from './state';
export {
  applyEdit,
  applyEdits,
  type Edit,
  type EditFault,
  type EditKind,
  EDIT_KINDS,
  type EditMap,
} from './edits';
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
export { type LogAnswer, type LogEntry, nextRedo, nextUndo, redoable, stateAt, undoable } from './history';
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
