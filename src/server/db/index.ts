export { migrate } from './bring-up-to-date';
export { closeDb, db, inSnapshot } from './connection';
export {
  BlobModel,
  CheckpointModel,
  ConformFileModel,
  DismissalModel,
  EditModel,
  HandoverModel,
  InPlaceFileModel,
  JobModel,
  RecordingModel,
  RelationModel,
  SessionModel,
  SnapshotModel,
  StyleModel,
  StyleVersionModel,
} from './models';
export { isDatabaseAway } from './away';
export { isUuid, uuidOf } from './ids';
export { loadSession, saveSession } from './session-rows';
export { watchSession } from './session-changes';
