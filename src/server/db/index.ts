export { closeDb, db, migrate } from './connection';
export { BlobModel, ConformFileModel, EditModel, HandoverModel, JobModel, RecordingModel, SessionModel } from './models';
export { isUuid } from './ids';
export { loadSession, saveSession } from './session-rows';
