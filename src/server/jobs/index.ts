export { type JobPayload, payloadOf } from './payloads';
export { enqueue, queue, type EnqueueRequest } from './enqueue';
export { startWorker, MOST_INTERRUPTIONS, type JobContext, type JobHandler, type JobHandlers } from './run';
