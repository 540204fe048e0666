export { enqueue, type EnqueueRequest } from './enqueue';
export { startWorker, type JobContext, type JobHandler } from './run';
