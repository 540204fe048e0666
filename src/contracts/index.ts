export { faultText, warningText } from './fault-text';
export { FAULT_CODES, type FaultCode, type Fault } from './faults';
export { editRequestSchema, type EditRequest, newSessionSchema, type NewSession, detectRequestSchema, type DetectRequest, AUDITION_TRACKS, auditionRequestSchema, type AuditionRequest, handoverRequestSchema, type HandoverRequest } from './requests';
export { type AuditionView, type ConformedTrackView, type ConformView, type HandoverView, type JobKind, type JobView, type RecordingView, type SessionListItem, type SessionView, type TempoResultView } from './views';
export { houseStyleSchema, parseHouseStyle } from './house-style';
export { VERSION } from './version';
export { mapFileSchema } from './map-file';
export { MAX_SOUND_FRAMES, MAX_SOUND_PIECES, type SoundPiece, soundRequestSchema } from './sound';
