import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Cancelled } from '@/core/units';
import { runTask } from './compute-pool';

// A thread of the test's own with the same protocol: what is tested is the pool.
const THREAD = `
import { parentPort, threadId } from 'node:worker_threads';
parentPort.on('message', ({ payload }) => {
  if (payload === 'fail') parentPort.postMessage({ failed: { message: 'no room', code: 'ENOSPC' } });
  else if (payload === 'die') process.exit(3);
  else if (payload === 'throw') throw new Error('out of luck');
  else if (payload === 'hang') parentPort.postMessage({ progress: 0.5 });
  else { parentPort.postMessage({ progress: 1 }); parentPort.postMessage({ done: threadId }); }
});`;

describe('the threads for heavy tasks', () => {
  let dir: string;
  let threadPath: string;
  beforeAll(() => {
    dir = mkdtempSync(join(tmpdir(), 'pool-'));
    threadPath = join(dir, 'thread.mjs');
    writeFileSync(threadPath, THREAD);
  });
  afterAll(() => rmSync(dir, { recursive: true }));
  const run = (payload: string, options = {}) =>
    runTask('inspect', payload as never, { threadPath, ...options }) as Promise<unknown>;

  it('one thread serves task after task, two at once take two, and no more than two wait', async () => {
    const first = await run('x');
    expect(await run('x')).toBe(first);
    const [a, b, c] = await Promise.all([run('x'), run('x'), run('x')]);
    expect(new Set([a, b, c]).size).toBe(3);
    expect(a).toBe(first);
    const again = await Promise.all([run('x'), run('x'), run('x')]);
    expect(again.filter((id) => [a, b, c].includes(id))).toHaveLength(2);
  });

  it('a failed task keeps its code, and its thread goes on', async () => {
    const before = await run('x');
    await expect(run('fail')).rejects.toMatchObject({ message: 'no room', code: 'ENOSPC' });
    expect(await run('x')).toBe(before);
  });

  it('a dead or throwing thread is said and never used again', async () => {
    await expect(run('die')).rejects.toThrow('compute thread ended with 3');
    await expect(run('throw')).rejects.toThrow('out of luck');
    expect(await run('x')).toEqual(expect.any(Number));
  });

  it('a withdrawn task ends its thread; progress had arrived; one withdrawn before does not begin', async () => {
    const cancel = { cancelled: false };
    const shares: number[] = [];
    const running = run('hang', {
      cancel,
      progress: (share: number) => {
        shares.push(share);
        cancel.cancelled = true;
      },
    });
    await expect(running).rejects.toBeInstanceOf(Cancelled);
    expect(shares).toEqual([0.5]);
    await expect(run('x', { cancel })).rejects.toBeInstanceOf(Cancelled);
  });
});
