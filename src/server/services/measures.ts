import { type MeasuresResult, readMeasures } from '@/contracts';
import { db, isUuid, JobModel } from '../db';
import { startOverTracks } from './balance';

const newest = (sessionId: string) =>
  ({
    where: { sessionId, kind: 'loudness.measure', state: 'done' },
    order: [['finishedAt', 'DESC']],
  }) satisfies Parameters<typeof JobModel.findOne>[0];

/** How loud the tracks were when they were measured last; null = they never were. */
export async function newestMeasures(sessionId: string): Promise<MeasuresResult | null> {
  db();
  const job = isUuid(sessionId) ? await JobModel.findOne(newest(sessionId)) : null;
  return job?.result ? readMeasures(job.result) : null;
}

/** The job that measured last; null = none did. */
export const measuredBy = async (sessionId: string): Promise<string | null> =>
  (await JobModel.findOne({ ...newest(sessionId), attributes: ['id'] }))?.id ?? null;

/** Measures how loud the tracks of a session are; the job's id. */
export const startMeasuring = (sessionId: string): Promise<string> =>
  startOverTracks('loudness.measure', sessionId);
