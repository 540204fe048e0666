import { stat } from 'node:fs/promises';
import type { Transaction } from 'sequelize';
import { type Fault, type JobKind, liesInFile } from '@/contracts';
import { db, HandoverModel, isUuid, JobModel, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { payloadOf, queue } from '../jobs';

/** A job as far as it matters for what waits for it. */
interface Work {
  readonly kind: JobKind;
  readonly payload: unknown;
}

/** Says where a job's result was expected that there will be none; what it began from stays. */
export async function abandonJob(work: Work, fault: Fault): Promise<void> {
  db();
  const { recordingId, handoverId } = waitingFor(work);
  if (recordingId !== undefined)
    await RecordingModel.update(
      { state: 'failed', fault },
      { where: { id: recordingId, state: ['waiting', 'arriving'] } },
    );
  if (handoverId !== undefined)
    await HandoverModel.update({ state: 'failed', fault }, { where: { id: handoverId, state: 'building' } });
}

/** What waits for a job: a recording that is to arrive, a package that is to be built. */
function waitingFor({ kind, payload }: Work): {
  readonly recordingId?: string;
  readonly handoverId?: string;
} {
  if (kind === 'recording.arrive') return { ...payloadOf(kind, payload) };
  return kind === 'package.build' ? { ...payloadOf(kind, payload) } : {};
}

/** What waited for a failed job waits again. */
async function reopen(work: Work, transaction: Transaction): Promise<void> {
  const { recordingId, handoverId } = waitingFor(work);
  if (recordingId !== undefined)
    await RecordingModel.update(
      { state: 'waiting', fault: null },
      { where: { id: recordingId, state: 'failed' }, transaction },
    );
  if (handoverId !== undefined)
    await HandoverModel.update(
      { state: 'building', fault: null },
      { where: { id: handoverId, state: 'failed' }, transaction },
    );
}

/** Asks a job to stop; it does so at its next step. */
export async function cancelJob(jobId: string): Promise<void> {
  db();
  if (isUuid(jobId))
    await JobModel.update({ cancelRequested: true }, { where: { id: jobId, state: ['queued', 'running'] } });
}

/** Does a failed or cancelled job once more. Throws `request.not_found` when there is no such job. */
export async function retryJob(jobId: string): Promise<void> {
  await db().transaction(async (transaction) => {
    const job = await endedJob(jobId, transaction);
    const fault = job.fault as Fault | null;
    // What it would be done with is gone, or gives the same: its own words stay.
    const path = payloadOf('recording.arrive', job.payload)?.path;
    const isGone = path !== undefined && (await stat(path).catch(() => null)) === null;
    if (fault && (liesInFile(fault) || isGone))
      throw new RequestFault(isGone && !liesInFile(fault) ? { code: 'file.unreadable' } : fault);
    await reopen({ kind: job.kind as JobKind, payload: job.payload }, transaction);
    await job.update(
      { state: 'queued', attempts: 0, progress: 0, fault: null, cancelRequested: false, finishedAt: null },
      { transaction },
    );
    await queue(job.id, transaction);
  });
}

/** Takes a failed or cancelled job off the list. Throws `request.not_found` when there is no such job. */
export async function dismissJob(jobId: string): Promise<void> {
  await db().transaction(async (transaction) => {
    await (await endedJob(jobId, transaction)).destroy({ transaction });
  });
}

async function endedJob(jobId: string, transaction: Transaction): Promise<JobModel> {
  const job = isUuid(jobId)
    ? await JobModel.findByPk(jobId, { transaction, lock: transaction.LOCK.UPDATE })
    : null;
  if (!job || !['failed', 'cancelled'].includes(job.state))
    throw new RequestFault({ code: 'request.not_found' });
  return job;
}
