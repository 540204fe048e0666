import { rm, stat } from 'node:fs/promises';
import { Op, type Transaction } from 'sequelize';
import { keptRecordings, type SessionState } from '@/core/session';
import { db, isUuid, JobModel, RecordingModel, SessionModel } from '../db';
import { RequestFault } from '../http';
import { enqueue, payloadOf } from '../jobs';
import { uploadPath } from './uploads';

async function failedRecording(id: string): Promise<RecordingModel> {
  db();
  const row = isUuid(id) ? await RecordingModel.findByPk(id) : null;
  if (row?.state !== 'failed') throw new RequestFault({ code: 'request.not_found' });
  return row;
}

/** Tries the arrival of a recording again that failed for a reason outside its file (no room, cancelled). */
export async function retryRecording(id: string): Promise<void> {
  const row = await failedRecording(id);
  const inPlace = row.sourcePath !== null;
  const path = row.sourcePath ?? uploadPath(id);
  if (!(await stat(path).catch(() => null)))
    throw new RequestFault(inPlace ? { code: 'file.missing', path } : { code: 'file.unreadable' });
  await db().transaction(async (transaction) => {
    await RecordingModel.update({ state: 'waiting', fault: null }, { where: { id }, transaction });
    await enqueue(
      {
        kind: 'recording.arrive',
        sessionId: row.sessionId,
        subject: row.receivedName,
        payload: { recordingId: id, path, inPlace, depth: 0 },
      },
      transaction,
    );
  });
}

/** Takes a recording that could not be used off the list. */
export async function dismissRecording(id: string): Promise<void> {
  const row = await failedRecording(id);
  await row.destroy();
  await rm(uploadPath(id), { force: true });
}

/** Queues the conversions to the session's rate that are missing and not under way; returns how many are. */
export async function enqueueConversions(
  sessionId: string,
  session: SessionState,
  transaction: Transaction,
): Promise<number> {
  const rateHz = session.sampleRateHz;
  if (rateHz === null) return 0;
  const kept = keptRecordings(session);
  const rows = (await RecordingModel.findAll({ where: { sessionId, state: 'ready' }, transaction })).filter(
    (r) =>
      r.sampleRateHz !== null &&
      r.sampleRateHz !== rateHz &&
      (r.convertedRateHz !== rateHz || r.convertedKept !== kept.has(r.id)),
  );
  const open =
    rows.length === 0
      ? []
      : await JobModel.findAll({
          where: { sessionId, kind: 'recording.convert', state: ['queued', 'running'] },
          transaction,
        });
  const isOpen = (id: string): boolean =>
    open.some((j) => {
      const p = payloadOf('recording.convert', j.payload);
      return p?.recordingId === id && p.toHz === rateHz && p.keepSamples === kept.has(id);
    });
  for (const r of rows)
    if (!isOpen(r.id))
      await enqueue(
        {
          kind: 'recording.convert',
          sessionId,
          subject: r.receivedName,
          payload: { recordingId: r.id, toHz: rateHz, keepSamples: kept.has(r.id) },
        },
        transaction,
      );
  return rows.length;
}

/** Queues the listening passes that are missing and not under way; returns how many are. */
export async function enqueueListening(sessionId: string, transaction: Transaction): Promise<number> {
  const rows = await RecordingModel.findAll({
    where: {
      sessionId,
      state: 'ready',
      [Op.or]: [{ onsetsSha256: null }, { sketchSha256: null }, { levelsSha256: null }],
      container: { [Op.ne]: 'midi' },
    },
    transaction,
  });
  const open =
    rows.length === 0
      ? []
      : await JobModel.findAll({
          where: { sessionId, kind: 'recording.listen', state: ['queued', 'running'] },
          transaction,
        });
  const busy = new Set(open.map((j) => payloadOf('recording.listen', j.payload)?.recordingId));
  for (const r of rows)
    if (!busy.has(r.id))
      await enqueue(
        { kind: 'recording.listen', sessionId, subject: r.receivedName, payload: { recordingId: r.id } },
        transaction,
      );
  return rows.length;
}

/** Listens again to what was heard before levels were kept; returns how many recordings wait for it. */
export const listenForLevels = (sessionId: string): Promise<number> =>
  db().transaction(async (transaction) => {
    if (!isUuid(sessionId) || !(await SessionModel.findByPk(sessionId, { transaction })))
      throw new RequestFault({ code: 'session.not_found' });
    return enqueueListening(sessionId, transaction);
  });

/** Recordings of a session that are still on their way, or were not listened to yet. */
export const countUnheard = (sessionId: string, transaction: Transaction): Promise<number> =>
  RecordingModel.count({
    where: {
      sessionId,
      [Op.or]: [
        { state: ['waiting', 'arriving'] },
        { state: 'ready', onsetsSha256: null, container: { [Op.ne]: 'midi' } },
      ],
    },
    transaction,
  });
