export { closeDb, db, migrate } from './connection';
export { BlobModel, CheckpointModel, ConformFileModel, EditModel, HandoverModel, JobModel, RecordingModel, SessionModel } from './models';
export { isDatabaseAway } from './away';
export { isUuid } from './ids';
export { loadSession, saveSession } from './session-rows';
