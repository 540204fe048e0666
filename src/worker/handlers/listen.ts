import { Op } from 'sequelize';
import { encodeOnsets, type ArrivalFacts } from '@/core/analysis';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, RecordingModel } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { keepingBlobs } from '@/server/services';
import { blobStore } from '@/server/storage';

const TRUE_PEAK_FROM_DBFS = -6;

/** The listening pass: onset curves for the tempo detection; true peak where the sample peak is high. */
export const listen: JobHandler = async ({ payload, progress, cancel }) => {
  const { recordingId } = payload as { recordingId: string };
  const row = await RecordingModel.findByPk(recordingId);
  if (!row?.sha256 || row.onsetsSha256) return {};
  const store = blobStore();
  // The same content was heard before, in this session or another: what was found holds.
  const known = await keepingBlobs(async (transaction) => {
    const twin = await RecordingModel.findOne({ where: { sha256: row.sha256, onsetsSha256: { [Op.ne]: null } }, transaction });
    if (twin) await RecordingModel.update({ onsetsSha256: twin.onsetsSha256, truePeakDbtp: twin.truePeakDbtp }, { where: { id: recordingId }, transaction });
    return twin !== null;
  });
  if (known) return {};
  const peak = (row.facts as ArrivalFacts | null)?.peakDbfs ?? -Infinity;
  const inspected = await runTask('inspect', { path: store.pathOf(row.sha256), truePeak: peak > TRUE_PEAK_FROM_DBFS, onsets: true }, { threadPath: readConfig().threadPath, progress, cancel });
  if (!inspected.ok || !inspected.value.onsets) return { fault: inspected.ok ? { code: 'internal' } : inspected.error };
  const bytes = encodeOnsets(inspected.value.onsets);
  const { truePeakDbtp } = inspected.value;
  await keepingBlobs(async (transaction) => {
    const onsetsSha256 = await store.put(bytes);
    await BlobModel.bulkCreate([{ sha256: onsetsSha256, sizeBytes: bytes.length }], { ignoreDuplicates: true, transaction });
    await RecordingModel.update({ onsetsSha256, truePeakDbtp }, { where: { id: recordingId }, transaction });
  });
  return {};
};
