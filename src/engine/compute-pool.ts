import { Worker } from 'node:worker_threads';
import { Cancelled, type CancelSignal, type ProgressSink } from '@/core/units';
import type { TaskMap, TaskName } from './tasks';

export type { TaskMap, TaskName } from './tasks';

/** What a thread sends back. */
export type ThreadMessage = { readonly progress: number } | { readonly done: unknown } | { readonly failed: { readonly message: string; readonly code?: string } };

const CANCEL_POLL_MS = 200;

/**
 * Runs one heavy task in a thread of its own, so that the caller's event loop stays free; the thread ends with it.
 * Rejects with Cancelled when withdrawn, with the thread's error otherwise (its `code` kept, e.g. ENOSPC).
 */
export function runTask<N extends TaskName>(
  name: N,
  payload: TaskMap[N]['takes'],
  options: { readonly threadPath: string; readonly progress?: ProgressSink; readonly cancel?: CancelSignal },
): Promise<TaskMap[N]['gives']> {
  if (options.cancel?.cancelled) return Promise.reject(new Cancelled());
  return new Promise((resolve, reject) => {
    const worker = new Worker(options.threadPath, { workerData: { name, payload } });
    const poll = setInterval(() => {
      if (!options.cancel?.cancelled) return;
      finish(() => reject(new Cancelled()));
    }, CANCEL_POLL_MS);
    let settled = false;
    const finish = (settle: () => void): void => {
      if (settled) return;
      settled = true;
      clearInterval(poll);
      void worker.terminate();
      settle();
    };
    worker.on('message', (message: ThreadMessage) => {
      if ('progress' in message) options.progress?.(message.progress);
      else if ('done' in message) finish(() => resolve(message.done as TaskMap[N]['gives']));
      else finish(() => reject(Object.assign(new Error(message.failed.message), { code: message.failed.code })));
    });
    worker.on('error', (error) => finish(() => reject(error)));
    worker.on('exit', (code) => finish(() => reject(new Error(`compute thread ended with ${code}`))));
  });
}
