import { Worker } from 'node:worker_threads';
import { Cancelled, type CancelSignal, type ProgressSink } from '@/core/units';
import type { TaskMap, TaskName } from './tasks';

export type { TaskMap, TaskName } from './tasks';

/** What a thread sends back. */
export type ThreadMessage =
  | { readonly progress: number }
  | { readonly done: unknown }
  | { readonly failed: { readonly message: string; readonly code?: string } };

/** What a thread is told: one task at a time. */
export interface ThreadTask {
  readonly name: TaskName;
  readonly payload: unknown;
}

const CANCEL_POLL_MS = 200;
const IDLE_KEPT = 2;
const idle: { readonly path: string; readonly thread: Worker }[] = [];

/** A thread that waits for work, else a new one: starting one takes longer than a short recording's whole pass. */
function threadFor(path: string): Worker {
  const at = idle.findIndex((entry) => entry.path === path);
  const thread = at < 0 ? new Worker(path) : (idle.splice(at, 1)[0] as (typeof idle)[number]).thread;
  thread.removeAllListeners();
  thread.ref();
  return thread;
}

/** Keeps a thread for the next task. It does not hold the process: a command line ends when its work is done. */
function keepThread(path: string, thread: Worker): void {
  thread.removeAllListeners();
  if (idle.length >= IDLE_KEPT) {
    void thread.terminate();
    return;
  }
  const entry = { path, thread };
  const gone = (): void => {
    const at = idle.indexOf(entry);
    if (at >= 0) idle.splice(at, 1);
  };
  thread.once('error', gone);
  thread.once('exit', gone);
  thread.unref();
  idle.push(entry);
}

/**
 * Runs one heavy task in a thread, so that the caller's event loop stays free; the thread is kept for the next one.
 * Rejects with Cancelled when withdrawn (its thread ends at once), with the thread's error otherwise (its `code` kept, e.g. ENOSPC).
 */
export function runTask<N extends TaskName>(
  name: N,
  payload: TaskMap[N]['input'],
  options: { readonly threadPath: string; readonly progress?: ProgressSink; readonly cancel?: CancelSignal },
): Promise<TaskMap[N]['output']> {
  if (options.cancel?.cancelled) return Promise.reject(new Cancelled());
  return new Promise((resolve, reject) => {
    const thread = threadFor(options.threadPath);
    const poll = setInterval(() => {
      if (options.cancel?.cancelled) end(() => reject(new Cancelled()), false);
    }, CANCEL_POLL_MS);
    let settled = false;
    const end = (settle: () => void, reusable: boolean): void => {
      if (settled) return;
      settled = true;
      clearInterval(poll);
      if (reusable) keepThread(options.threadPath, thread);
      else void thread.terminate();
      settle();
    };
    thread.on('message', (message: ThreadMessage) => {
      if ('progress' in message) options.progress?.(message.progress);
      else if ('done' in message) end(() => resolve(message.done as TaskMap[N]['output']), true);
      else
        end(
          () => reject(Object.assign(new Error(message.failed.message), { code: message.failed.code })),
          true,
        );
    });
    thread.on('error', (error) => end(() => reject(error), false));
    thread.on('exit', (code) => end(() => reject(new Error(`compute thread ended with ${code}`)), false));
    thread.postMessage({ name, payload } satisfies ThreadTask);
  });
}
