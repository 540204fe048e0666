import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { JobKind } from '@/contracts';
import { db, JobModel } from '../db';
import type { JobPayload } from './payloads';

/** A job to be done. */
export interface EnqueueRequest<K extends JobKind = JobKind> {
  readonly kind: K;
  readonly sessionId: string | null;
  /** What it works on, for people. */
  readonly subject: string;
  readonly payload: JobPayload<K>;
}

/** Puts a job in the queue as part of a transaction: it runs if and only if that commits. Returns its id. */
export async function enqueue<K extends JobKind>(
  request: EnqueueRequest<K>,
  transaction: Transaction,
): Promise<string> {
  const id = randomUUID();
  await JobModel.create({ id, ...request, state: 'queued' }, { transaction });
  await queue(id, transaction);
  return id;
}

/** Hands a job's row to the queue. The queue itself never gives one up: how often it was begun stands in the row. */
export async function queue(id: string, transaction: Transaction): Promise<void> {
  await db().query('select graphile_worker.add_job($1, $2::json, job_key => $3, max_attempts => 30000)', {
    bind: ['fernmoss', JSON.stringify({ jobId: id }), id],
    transaction,
  });
}
