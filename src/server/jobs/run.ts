import { makeWorkerUtils, run, type Runner } from 'graphile-worker';
import { Cancelled, type CancelSignal, type ProgressSink } from '@/core/units';
import type { Fault, JobKind } from '@/contracts';
import { readConfig } from '../config';
import { isDatabaseAway, JobModel } from '../db';
import { RequestFault } from '../http';

/** What a handler is given. */
export interface JobContext {
  readonly jobId: string;
  readonly sessionId: string | null;
  readonly payload: unknown;
  readonly progress: ProgressSink;
  readonly cancel: CancelSignal;
}

/** Does one kind of job; a returned fault ends it as failed, a throw as well (crashes of the process are repeated instead). */
export type JobHandler = (
  context: JobContext,
) => Promise<{ readonly result?: unknown; readonly fault?: Fault }>;

const PROGRESS_MS = 300;
const CONCURRENT_JOBS = 2;

/**
 * Starts this process's worker. It is the only one on its database, so locks left by a killed one are freed first
 * and its jobs run again.
 */
export async function startWorker(handlers: Readonly<Record<JobKind, JobHandler>>): Promise<Runner> {
  const { databaseUrl } = readConfig();
  const utils = await makeWorkerUtils({ connectionString: databaseUrl, noPreparedStatements: true });
  try {
    await utils.withPgClient(async (client) => {
      const { rows } = await client.query<{ locked_by: string }>(
        'select distinct locked_by from graphile_worker.jobs where locked_by is not null',
      );
      if (rows.length > 0)
        await client.query('select graphile_worker.force_unlock_workers($1::text[])', [
          rows.map((r) => r.locked_by),
        ]);
    });
  } finally {
    await utils.release();
  }
  return run({
    connectionString: databaseUrl,
    concurrency: CONCURRENT_JOBS,
    noHandleSignals: true,
    pollInterval: 1000,
    taskList: { fernmoss: async (payload) => runJob(handlers, (payload as { jobId: string }).jobId) },
  });
}

async function runJob(handlers: Readonly<Record<JobKind, JobHandler>>, jobId: string): Promise<void> {
  const job = await JobModel.findByPk(jobId);
  if (!job || !['queued', 'running'].includes(job.state)) return;
  await JobModel.update({ state: 'running', startedAt: new Date(), progress: 0 }, { where: { id: jobId } });
  // Withdrawn before it began: the handler still has to say so where its result was expected.
  const cancel = { cancelled: job.cancelRequested };
  let share = 0;
  const tick = setInterval(() => {
    void JobModel.findByPk(jobId, { attributes: ['cancelRequested'] }).then(
      (row) => {
        cancel.cancelled = row === null || row.cancelRequested;
      },
      () => undefined,
    );
    void JobModel.update({ progress: share }, { where: { id: jobId, state: 'running' } }).catch(
      () => undefined,
    );
  }, PROGRESS_MS);
  try {
    const outcome = await handlers[job.kind as JobKind]({
      jobId,
      sessionId: job.sessionId,
      payload: job.payload,
      progress: (s) => {
        share = s;
      },
      cancel,
    });
    await finish(
      jobId,
      outcome.fault
        ? { state: 'failed', fault: outcome.fault }
        : { state: 'done', result: (outcome.result as object | undefined) ?? null, progress: 1 },
    );
  } catch (cause) {
    // Whether the job ended cannot be written down: this process goes, and the next one frees its locks and does it again.
    if (isDatabaseAway(cause)) leave(cause);
    if (cause instanceof Cancelled)
      await finish(jobId, { state: 'cancelled', fault: { code: 'job.cancelled' } });
    else {
      const error = cause as NodeJS.ErrnoException;
      if (!(cause instanceof RequestFault)) console.error(`job ${job.kind} ${jobId}:`, cause);
      await finish(jobId, {
        state: 'failed',
        fault:
          cause instanceof RequestFault
            ? cause.fault
            : error.code === 'ENOSPC'
              ? { code: 'store.disk_full' }
              : { code: 'internal', reason: error.message },
      });
    }
  } finally {
    clearInterval(tick);
  }
}

async function finish(
  id: string,
  values: { state: string; fault?: Fault; result?: object | null; progress?: number },
): Promise<void> {
  await JobModel.update({ ...values, finishedAt: new Date() }, { where: { id } }).catch(leave);
}

function leave(cause: unknown): never {
  console.error('worker: lost the database;', (cause as Error).message);
  process.exit(1);
}
