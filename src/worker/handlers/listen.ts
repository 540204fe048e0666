import { Op } from 'sequelize';
import {
  type ArrivalFacts,
  encodeBandLevels,
  encodeOnsets,
  encodeSketch,
  type HeardFacts,
} from '@/core/analysis';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, db, JobModel, RecordingModel } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { enqueueRelating, keepingBlobs } from '@/server/services';
import { blobStore } from '@/server/storage';
import { withSounds } from '../sound-paths';

const TRUE_PEAK_FROM_DBFS = -6;
const MOST_TWINS = 20;

/** Whether all that is asked today was asked when it was heard. */
const isHeardWhole = (heard: HeardFacts | null): boolean =>
  heard !== null && (heard.as === null || heard.as?.sounds !== undefined);

/** The listening pass: onset curves for the tempo detection, a sketch to compare with others, levels for Tidy, what it is by its sound; true peak where the sample peak is high. */
export const listen: JobHandler<'recording.listen'> = async ({ payload, progress, cancel }) => {
  const { recordingId } = payload;
  const row = await RecordingModel.findByPk(recordingId);
  if (!row?.sha256 || (row.onsetsSha256 && row.sketchSha256 && row.levelsSha256)) return {};
  const store = blobStore();
  // The same content was heard before, in this session or another: what was found holds, unless less was asked of it then.
  const known = await keepingBlobs(async (transaction) => {
    const twins = await RecordingModel.findAll({
      where: {
        sha256: row.sha256,
        onsetsSha256: { [Op.ne]: null },
        sketchSha256: { [Op.ne]: null },
        levelsSha256: { [Op.ne]: null },
      },
      limit: MOST_TWINS,
      transaction,
    });
    const twin = twins.find((t) => isHeardWhole(t.heard as HeardFacts | null));
    if (twin)
      await RecordingModel.update(
        {
          onsetsSha256: twin.onsetsSha256,
          sketchSha256: twin.sketchSha256,
          levelsSha256: twin.levelsSha256,
          heard: twin.heard,
          truePeakDbtp: twin.truePeakDbtp,
        },
        { where: { id: recordingId }, transaction },
      );
    return twin !== undefined;
  });
  if (known) {
    await relateWhenLast(row.sessionId);
    return {};
  }
  const peak = (row.facts as ArrivalFacts | null)?.peakDbfs ?? -Infinity;
  const { sha256 } = row;
  const heard = await withSounds([sha256], cancel, (pathOf) =>
    runTask(
      'listen',
      { path: pathOf(sha256), truePeak: peak > TRUE_PEAK_FROM_DBFS },
      { threadPath: readConfig().threadPath, progress, cancel },
    ),
  );
  if (!heard.ok) return { fault: heard.error };
  const { onsets, sketch, levels, truePeakDbtp } = heard.value;
  const blobs = [encodeOnsets(onsets), encodeSketch(sketch), encodeBandLevels(levels)];
  await keepingBlobs(async (transaction) => {
    const shas: string[] = [];
    for (const bytes of blobs) shas.push(await store.put(bytes));
    await BlobModel.bulkCreate(
      shas.map((sha256, i) => ({ sha256, sizeBytes: (blobs[i] as Uint8Array).length })),
      { ignoreDuplicates: true, transaction },
    );
    await RecordingModel.update(
      {
        onsetsSha256: shas[0],
        sketchSha256: shas[1],
        levelsSha256: shas[2],
        heard: heard.value.heard,
        truePeakDbtp,
      },
      { where: { id: recordingId }, transaction },
    );
  });
  await relateWhenLast(row.sessionId);
  return {};
};

/** What the recordings have to do with each other is looked at once no other waits to be heard. */
async function relateWhenLast(sessionId: string): Promise<void> {
  await db().transaction(async (transaction) => {
    const waiting = await JobModel.count({
      where: { sessionId, kind: ['recording.arrive', 'recording.listen'], state: 'queued' },
      transaction,
    });
    if (waiting === 0) await enqueueRelating(sessionId, transaction);
  });
}
