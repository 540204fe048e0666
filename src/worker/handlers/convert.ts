import { rm } from 'node:fs/promises';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, loadSession, RecordingModel } from '@/server/db';
import type { JobHandler } from '@/server/jobs';
import { enqueueConforming, keepingBlobs } from '@/server/services';
import { blobStore, temporaryPath } from '@/server/storage';
import { withSounds } from '../sound-paths';

/** Makes a copy of a recording at the session's rate, converted or with its samples as they are; the original stays. */
export const convert: JobHandler<'recording.convert'> = async ({ payload, progress, cancel }) => {
  const { recordingId, toHz, keepSamples } = payload;
  const row = await RecordingModel.findByPk(recordingId);
  if (!row?.sha256 || (row.convertedRateHz === toHz && row.convertedKept === keepSamples)) return {};
  const store = blobStore();
  const outPath = await temporaryPath();
  try {
    const { sha256: source } = row;
    const made = await withSounds([source], cancel, (pathOf) =>
      runTask(
        'convert',
        { path: pathOf(source), outPath, toHz, keepSamples },
        { threadPath: readConfig().threadPath, progress, cancel },
      ),
    );
    if (!made.ok) return { fault: made.error };
    const { sha256, sizeBytes, dataOffset, lengthFrames } = made.value;
    await keepingBlobs(async (transaction) => {
      await store.adopt(outPath, sha256);
      await BlobModel.bulkCreate([{ sha256, sizeBytes }], { ignoreDuplicates: true, transaction });
      // The session before its recordings, as everywhere: two that take them in turn would wait for each other.
      const loaded = await loadSession(row.sessionId, transaction);
      await RecordingModel.update(
        {
          convertedSha256: sha256,
          convertedRateHz: toHz,
          convertedKept: keepSamples,
          header: { ...row.header, converted: { dataOffset, lengthFrames } } as object,
        },
        { where: { id: recordingId }, transaction },
      );
      if (loaded) await enqueueConforming(row.sessionId, loaded.session, transaction);
    });
    return {};
  } finally {
    await rm(outPath, { force: true });
  }
};
