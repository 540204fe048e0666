import { useState } from 'react';
import type { JobView } from '@/contracts';

/** Jobs since nothing was under way last. */
export interface Batch {
  readonly ids: ReadonlySet<string>;
  /** Share of all of them that is done, 0–1; never goes back. */
  readonly share: number;
}

export const NO_BATCH: Batch = { ids: new Set(), share: 0 };

/** The batch once these jobs are open: what comes in while others run belongs to it, so its share can only stand still then. */
export function inBatch(before: Batch, open: readonly Pick<JobView, 'id' | 'progress'>[]): Batch {
  if (open.length === 0) return NO_BATCH;
  const ids = new Set([...before.ids, ...open.map((j) => j.id)]);
  const left = open.reduce((sum, j) => sum + (1 - j.progress), 0);
  return { ids, share: Math.max(before.share, 1 - left / ids.size) };
}

/** How far all open jobs are together. */
export function useBatch(open: readonly JobView[]): Batch {
  const [batch, setBatch] = useState(NO_BATCH);
  const now = inBatch(batch, open);
  // Kept while rendering, as React advises for what follows from earlier props.
  if (now.share !== batch.share || now.ids.size !== batch.ids.size) setBatch(now);
  return now;
}

/** What a job that has not begun waits for, in words; jobs begin in the order they were asked for. */
export function waitsFor(
  job: JobView,
  open: readonly JobView[],
  elsewhere: readonly string[],
  nameOf: (job: JobView) => string,
): string {
  const others = elsewhere.filter((at) => at < job.createdAt).length;
  if (others > 0) {
    const here = open.filter((j) => j.createdAt < job.createdAt).length;
    const behind = `${others} ${others === 1 ? 'job' : 'jobs'} of other sessions`;
    return here === 0 ? `waits behind ${behind}` : `waits behind ${here} here and ${behind}`;
  }
  const running = open.filter((j) => j.state === 'running');
  const ahead = open.filter((j) => j.state === 'queued' && j.createdAt < job.createdAt).length;
  if (running.length === 0 && ahead === 0) return 'waits for its turn';
  if (ahead === 0) return `waits for a free place, after ${running.map(nameOf).join(' or ')}`;
  return `waits: ${ahead} ${ahead === 1 ? 'job was' : 'jobs were'} asked for before it`;
}
