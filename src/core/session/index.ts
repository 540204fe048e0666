export { type Bus, emptySession, type Folder, isFolder, isTrack, type MapFacts, ROOT, type SessionState, type Track, type TrackFields, TRACK_FIELDS } from './state';
export { applyEdit, applyEdits, type Edit, type EditFault, type EditKind, EDIT_KINDS, type EditMap } from './edits';
export { listRows, pathOf, type SessionRow, tracksInOrder, unusedBuses } from './views';
export { majorityRate } from './rate';
export { redoable, undoable, type LogEntry } from './history';
