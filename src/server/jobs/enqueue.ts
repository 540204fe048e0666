import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { JobKind } from '@/contracts';
import { db, JobModel } from '../db';

/** A job to be done. */
export interface EnqueueRequest {
  readonly kind: JobKind;
  readonly sessionId: string | null;
  /** What it works on, for people. */
  readonly subject: string;
  readonly payload: object;
}

/** Puts a job in the queue as part of a transaction: it runs if and only if that commits. Returns its id. */
export async function enqueue(request: EnqueueRequest, transaction: Transaction): Promise<string> {
  const id = randomUUID();
  await JobModel.create({ id, ...request, state: 'queued' }, { transaction });
  await db().query('select graphile_worker.add_job($1, $2::json, max_attempts => 5)', {
    bind: ['fernmoss', JSON.stringify({ jobId: id })],
    transaction,
  });
  return id;
}
