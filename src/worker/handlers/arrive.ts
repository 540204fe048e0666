import { rm } from 'node:fs/promises';
import type { Transaction } from 'sequelize';
import { majorityRate, ROOT, type Edit } from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { Cancelled } from '@/core/units';
import { runTask, type TaskMap } from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, HandoverModel, isDatabaseAway, loadSession, RecordingModel } from '@/server/db';
import { enqueue, type JobHandler } from '@/server/jobs';
import { applyToSession, enqueueConversions, keepingBlobs } from '@/server/services';
import { blobStore } from '@/server/storage';

type Inspected = Extract<TaskMap['inspect']['gives'], { ok: true }>['value'];

/** The arrival pass: hash, waveform, levels, loudness; then the recording is kept as a blob and gets a track at the common zero. */
export const arrive: JobHandler = async ({ payload, progress, cancel }) => {
  const { recordingId, path } = payload as { recordingId: string; path: string };
  const row = await RecordingModel.findByPk(recordingId);
  if (!row || row.state === 'ready') return {};
  await RecordingModel.update({ state: 'arriving', fault: null }, { where: { id: recordingId } });
  try {
    const inspected = await runTask('inspect', { path, truePeak: false, onsets: false }, { threadPath: readConfig().threadPath, progress, cancel });
    if (!inspected.ok) {
      await RecordingModel.update({ state: 'failed', fault: inspected.error }, { where: { id: recordingId } });
      await rm(path, { force: true });
      return { fault: inspected.error };
    }
    const { value } = inspected;
    const store = blobStore();
    await keepingBlobs(async (transaction) => {
      await store.adopt(path, value.sha256);
      await record(row, value, await store.put(value.peaks), transaction);
    });
    await rm(path, { force: true });
    return {};
  } catch (cause) {
    // Nothing is wrong with the file: the job is done again.
    if (isDatabaseAway(cause)) throw cause;
    const code = cause instanceof Cancelled ? 'job.cancelled' : (cause as NodeJS.ErrnoException).code === 'ENOSPC' ? 'store.disk_full' : 'file.unreadable';
    const fault: object = { code };
    await RecordingModel.update({ state: 'failed', fault }, { where: { id: recordingId } });
    throw cause;
  }
};

async function record(row: RecordingModel, found: Inspected, peaksSha256: string, transaction: Transaction): Promise<void> {
  const { header, facts, sha256 } = found;
  const loaded = await loadSession(row.sessionId, transaction, true);
  if (!loaded) return;
  await BlobModel.bulkCreate([{ sha256, sizeBytes: found.sizeBytes }, { sha256: peaksSha256, sizeBytes: found.peaks.length }], { ignoreDuplicates: true, transaction });
  await RecordingModel.update(
    { state: 'ready', fault: null, sha256, peaksSha256, sampleRateHz: header.sampleRateHz, channels: header.channels, encoding: header.encoding, bitDepth: header.bitDepth, lengthFrames: header.lengthFrames, header: header as object, facts: facts as object },
    { where: { id: row.id }, transaction },
  );
  const edits: Edit[] = [{ kind: 'track.add', track: newTrack(row.id, row.receivedName, facts, DEFAULT_STYLE), parentId: ROOT, index: Number.MAX_SAFE_INTEGER }];
  const settled = loaded.session.map !== null || (await HandoverModel.count({ where: { sessionId: row.sessionId }, transaction })) > 0;
  const rate = settled ? loaded.session.sampleRateHz : await commonRate(row.sessionId, loaded.session.sampleRateHz, transaction);
  if (rate !== null && rate !== loaded.session.sampleRateHz) edits.push({ kind: 'session.rate', sampleRateHz: rate });
  await applyToSession(row.sessionId, edits, { label: `Received ${row.receivedName}`, author: 'intake', undoable: false }, { transaction });
  await enqueue({ kind: 'recording.listen', sessionId: row.sessionId, subject: row.receivedName, payload: { recordingId: row.id } }, transaction);
  await enqueueConversions(row.sessionId, rate, transaction);
}

/** The rate most of a session's recordings have. */
async function commonRate(sessionId: string, current: number | null, transaction: Transaction): Promise<number | null> {
  const rows = await RecordingModel.findAll({ where: { sessionId, state: 'ready' }, attributes: ['sampleRateHz'], transaction });
  return majorityRate(rows.flatMap((r) => r.sampleRateHz ?? []), current);
}
