import { EventEmitter } from 'node:events';
import { run, runMigrations, type WorkerEvents } from 'graphile-worker';
import { literal, QueryTypes } from 'sequelize';
import { Cancelled, type CancelSignal, type ProgressSink } from '@/core/units';
import type { Fault, JobKind } from '@/contracts';
import { readConfig } from '../config';
import { db, isDatabaseAway, JobModel } from '../db';
import { RequestFault } from '../http';
import { sweepTemporary, nameTemporaryFolder } from '../storage';
import { queue } from './enqueue';
import { type JobPayload, payloadOf } from './payloads';
import { WorkerIdentity } from './worker-identity';

/** What a handler is given. */
export interface JobContext<K extends JobKind = JobKind> {
  readonly jobId: string;
  readonly sessionId: string | null;
  readonly payload: JobPayload<K>;
  readonly progress: ProgressSink;
  readonly cancel: CancelSignal;
}

/** Does one kind of job; a returned fault ends it as failed, a throw as well (crashes of the process are repeated instead). */
export type JobHandler<K extends JobKind> = (
  context: JobContext<K>,
) => Promise<{ readonly result?: unknown; readonly fault?: Fault }>;

/** One handler a kind. */
export type JobHandlers = { readonly [K in JobKind]: JobHandler<K> };

/** Says where a job's result was expected that there will be none. */
export type Abandon = (
  job: { readonly kind: JobKind; readonly payload: unknown },
  fault: Fault,
) => Promise<void>;

/** What a worker is made of. */
export interface WorkerParts {
  readonly handlers: JobHandlers;
  readonly abandon: Abandon;
}

/** A worker at work. */
export interface RunningWorker {
  /** Takes no more jobs; what is not done within `graceMs` is left for the next start and costs it no attempt. */
  stop(graceMs: number): Promise<void>;
}

const PROGRESS_MS = 300;
const CONCURRENT_JOBS = 2;
/** How often dead workers are looked for. */
const DEAD_MS = 5000;
/** How often a job may be cut off by a dying process before it is taken to be what kills it. */
export const MOST_INTERRUPTIONS = 5;

/**
 * Starts a worker under an identity of its own; there may be others, here or on other machines. What dead ones hold is
 * freed at once and every few seconds. `lost`: the database no longer knows this one; ends the process by default.
 */
export async function startWorker(
  parts: WorkerParts,
  lost: (cause: unknown) => void = leave,
): Promise<RunningWorker> {
  const { databaseUrl } = readConfig();
  await runMigrations({ connectionString: databaseUrl });
  const identity = await WorkerIdentity.claim(databaseUrl, lost);
  await claimFromDead(identity);
  nameTemporaryFolder(identity.temporaryFolder);
  const running = new Set<string>();
  const events = new EventEmitter() as WorkerEvents;
  let pool = '';
  events.once('pool:create', ({ workerPool }) => (pool = workerPool.id));
  const runner = await run({
    connectionString: databaseUrl,
    concurrency: CONCURRENT_JOBS,
    events,
    noHandleSignals: true,
    pollInterval: 1000,
    taskList: {
      fernmoss: async (payload, { job }) => {
        const { jobId } = payload as { jobId: string };
        // One queued before jobs had a key: it was queued again with one, see requeueForgotten.
        if (job.key === null) return;
        running.add(jobId);
        await runJob(parts, jobId);
        running.delete(jobId);
      },
    },
  });
  await identity.calls(pool);
  const watch = setInterval(
    () =>
      void claimFromDead(identity).catch((error: unknown) => console.error('freeing dead workers:', error)),
    DEAD_MS,
  );
  return {
    async stop(graceMs) {
      clearInterval(watch);
      await Promise.race([
        runner.stop().catch(() => undefined),
        new Promise((resolve) => setTimeout(resolve, graceMs)),
      ]);
      // Stopped on purpose, not killed by the job: its attempt does not count.
      if (running.size > 0)
        await JobModel.update(
          { state: 'queued', attempts: literal('greatest(attempts - 1, 0)') },
          { where: { id: [...running], state: 'running' } },
        );
      await identity.release();
    },
  };
}

/** Frees what dead workers hold: their jobs and their half-written bytes. */
async function claimFromDead(identity: WorkerIdentity): Promise<void> {
  await sweepTemporary(await identity.freeDead());
  await requeueForgotten();
}

/** Queues again what is open but no longer in the queue: there from an older version, or given up by the queue itself. */
async function requeueForgotten(): Promise<void> {
  await db().transaction(async (transaction) => {
    const forgotten = await db().query<{ id: string }>(
      `select id from jobs where state in ('queued','running') and not exists
         (select 1 from graphile_worker.jobs q where q.key = jobs.id::text and q.attempts < q.max_attempts)
       order by created_at`,
      { type: QueryTypes.SELECT, transaction },
    );
    for (const { id } of forgotten) await queue(id, transaction);
  });
}

async function runJob({ handlers, abandon }: WorkerParts, jobId: string): Promise<void> {
  const job = await JobModel.findByPk(jobId);
  if (!job || !['queued', 'running'].includes(job.state)) return;
  const kind = job.kind as JobKind;
  if (job.attempts >= MOST_INTERRUPTIONS) {
    const fault: Fault = { code: 'job.interrupted', times: job.attempts };
    await abandon({ kind, payload: job.payload }, fault);
    return finish({ id: jobId, attempts: job.attempts }, { state: 'failed', fault });
  }
  const payload = payloadOf(kind, job.payload);
  if (payload === null)
    return finish(
      { id: jobId, attempts: job.attempts },
      { state: 'failed', fault: { code: 'job.unreadable' } },
    );
  // Taken for dead meanwhile, this worker has nothing to say of the job any more: another one began it once more.
  const mine = { id: jobId, attempts: job.attempts + 1 };
  // A job that is done again does not show less than it had shown.
  await JobModel.update(
    { state: 'running', startedAt: new Date(), attempts: mine.attempts },
    { where: { id: jobId } },
  );
  // Withdrawn before it began: the handler still has to say so where its result was expected.
  const cancel = { cancelled: job.cancelRequested };
  let share = job.progress;
  const tick = setInterval(() => {
    void JobModel.findByPk(jobId, { attributes: ['cancelRequested'] }).then(
      (row) => {
        cancel.cancelled = row === null || row.cancelRequested;
      },
      () => undefined,
    );
    void JobModel.update({ progress: share }, { where: { ...mine, state: 'running' } }).catch(
      () => undefined,
    );
  }, PROGRESS_MS);
  try {
    const outcome = await (handlers[kind] as JobHandler<JobKind>)({
      jobId,
      sessionId: job.sessionId,
      payload,
      progress: (s) => {
        share = Math.max(share, s);
      },
      cancel,
    });
    await finish(
      mine,
      outcome.fault
        ? { state: 'failed', fault: outcome.fault }
        : { state: 'done', result: (outcome.result as object | undefined) ?? null, progress: 1 },
    );
  } catch (cause) {
    await finish(mine, endOf(cause, `${kind} ${jobId}`));
  } finally {
    clearInterval(tick);
  }
}

/** State and fault of a job whose handler threw. */
function endOf(cause: unknown, what: string): { readonly state: string; readonly fault: Fault } {
  // Whether the job ended cannot be written down: this process goes, and the next one frees its locks and does it again.
  if (isDatabaseAway(cause)) leave(cause);
  if (cause instanceof Cancelled) return { state: 'cancelled', fault: { code: 'job.cancelled' } };
  if (cause instanceof RequestFault) return { state: 'failed', fault: cause.fault };
  console.error(`job ${what}:`, cause);
  const { code, message } = cause as NodeJS.ErrnoException;
  return {
    state: 'failed',
    fault: code === 'ENOSPC' ? { code: 'store.disk_full' } : { code: 'internal', reason: message },
  };
}

async function finish(
  attempt: { readonly id: string; readonly attempts: number },
  values: { state: string; fault?: Fault; result?: object | null; progress?: number },
): Promise<void> {
  await JobModel.update({ ...values, finishedAt: new Date() }, { where: attempt }).catch(leave);
}

function leave(cause: unknown): never {
  console.error('worker: lost the database;', (cause as Error).message);
  process.exit(1);
}
