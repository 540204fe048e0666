export { faultText } from './fault-text';
export { FAULT_CODES, type FaultCode, type Fault } from './faults';
export { editRequestSchema, type EditRequest, newSessionSchema, type NewSession, detectRequestSchema, dismissRequestSchema, type DismissRequest, type DetectRequest, AUDITION_TRACKS, auditionRequestSchema, type AuditionRequest, handoverRequestSchema, type HandoverRequest, type PackageContents, checkpointRequestSchema, returnRequestSchema, cleanRequestSchema, type CleanRequest, copyRequestSchema, findRequestSchema, inPlaceRequestSchema, newStyleSchema, type NewStyle, saveStyleSchema, type SaveStyle } from './requests';
export { type AuditionView, type CheckpointView, type ConformedTrackView, type ConformView, type DismissalView, type FolderView, type HandoverView, type HistoryView, type InPlaceState, type JobKind, type JobView, type NotesView, type RecordingView, type ReturnView, type SessionListItem, type SessionView, type SpaceView, type StyleListItem, type StyleView, type TempoResultView } from './views';
export { conditionSchema, houseStyleSchema, parseHouseStyle, type StyleIssue, styleJsonSchema } from './house-style';
export { readStyleFile, type StyleFile, type StyleFileIssue, writeStyleFile } from './style-file';
export { VERSION } from './version';
export { mapFileSchema } from './map-file';
export { MAX_PEAKS, peaksRequestSchema, MAX_SOUND_FRAMES, MAX_SOUND_PIECES, type SoundPiece, soundRequestSchema } from './sound';
