import { parentPort } from 'node:worker_threads';
import type { ThreadMessage, ThreadTask } from './compute-pool';
import { TASKS } from './tasks';

const PROGRESS_MS = 100;
const LARGE_BYTES = 1 << 16;

/** Buffers of the large typed arrays in a plain value, each once. */
function buffersOf(value: unknown, found = new Set<ArrayBuffer>()): ArrayBuffer[] {
  if (ArrayBuffer.isView(value)) {
    if (value.byteLength >= LARGE_BYTES && value.buffer instanceof ArrayBuffer) found.add(value.buffer);
  } else if (typeof value === 'object' && value !== null)
    for (const inner of Object.values(value)) buffersOf(inner, found);
  return [...found];
}

/** One task; the pool sends the next only after this one's answer. */
async function perform({ name, payload }: ThreadTask): Promise<void> {
  const send = (message: ThreadMessage): void => parentPort?.postMessage(message);
  let last = 0;
  try {
    const done = await TASKS[name](payload as never, (progress) => {
      const now = performance.now();
      if (now - last < PROGRESS_MS) return;
      last = now;
      send({ progress });
    });
    // Large arrays change hands instead of being copied.
    parentPort?.postMessage({ done } satisfies ThreadMessage, buffersOf(done));
  } catch (cause) {
    const error = cause as NodeJS.ErrnoException;
    send({ failed: { message: error.message, ...(error.code ? { code: error.code } : {}) } });
  }
}

parentPort?.on('message', (task: ThreadTask) => void perform(task));
