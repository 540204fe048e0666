export { findTakesByItself, startBalance, startSections, startTakes } from './balance';
export { packTakes, unpackTakes } from './takes';
export { newestMeasures, startMeasuring } from './measures';
export { createSession, deleteForGood, listSessions, viewSession } from './sessions';
export { isInWaste } from './must-be-kept';
export { viewMachine } from './machine';
export { copySession } from './copies';
export { emptyOldWaste, shelveSessions } from './shelves';
export { batchesAfter, acceptBatch, undoOrRedo } from './batches';
export { applyToSession, rateWasChosen, verifyReplay } from './editing';
export {
  archiveRoom,
  receive,
  receivedName,
  receiveInto,
  serveUpload,
  settleUploads,
  uploadPath,
} from './uploads';
export {
  dismissRecording,
  enqueueConversions,
  enqueueListening,
  listenForLevels,
  retryRecording,
} from './recordings';
export { readLevels, readNotes, readPeaks, readSound, refineEdges } from './listening';
export {
  blobAtRate,
  conformedSounds,
  enqueueConforming,
  playedSounds,
  type TrackSound,
  isWanted,
  type RenderRequest,
  renderRequests,
  resumeConforming,
  startAudition,
  viewAudition,
} from './conform';
export { answerNames, namesOf } from './names';
export { sortByItself } from './self-sort';
export { makeClickFile } from './click-file';
export { findTempoByItself, listenedTracks, startDetection, viewHits } from './tempo';
export { type JoinablePair, joinablePair, splitTrack, startJoin } from './pairs';
export { sessionEvents } from './events';
export { coverNoteOf, enqueueCopy, packageStream, startCopy, startHandover } from './handovers';
export { packageDir } from './package-dir';
export { allowedFile, listFolders, writableFolder } from './folders';
export { makeCheckpoint, previewReturn, removeCheckpoint, returnTo, viewHistory } from './history';
export { cleanSession, sweepPackages, viewSpace } from './space';
export { keepingBlobs, sweepBlobs } from './blobs';
export {
  filesUnder,
  forgetOriginal,
  keepOriginal,
  lookOf,
  pathsOf,
  type OriginalFile,
  originalsOf,
  sessionOriginals,
  startCopyingIn,
  startFinding,
  importInPlace,
} from './in-place';
export {
  copyStyle,
  importStyle,
  listStyles,
  makeDefault,
  removeStyle,
  saveStyle,
  styleFile,
  styleOf,
  viewStyle,
} from './styles';
export { dismissFindings, enqueueRelating, type RelationFacts } from './findings';
export { abandonJob, cancelJob, dismissJob, retryJob } from './jobs';
export { mustExist } from './exists';
export { pastState } from './past';
