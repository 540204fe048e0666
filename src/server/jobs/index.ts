export { enqueue, queue, type EnqueueRequest } from './enqueue';
export { startWorker, MOST_INTERRUPTIONS, type JobContext, type JobHandler } from './run';
