export { createSession, deleteSession, listSessions, viewSession } from './sessions';
export { applyToSession, redoSession, undoSession, verifyReplay } from './editing';
export { cancelJob, receive, uploadServer } from './uploads';
export { dismissRecording, enqueueConversions, enqueueListening, retryRecording } from './recordings';
export { readPeaks, readSound } from './listening';
export { blobAtRate, enqueueConforming, isWanted, type RenderRequest, renderRequests, resumeConforming, startAudition, viewAudition } from './conform';
export { startDetection } from './tempo';
export { sessionEvents } from './events';
export { packageDir, packageStream, startHandover } from './handovers';
