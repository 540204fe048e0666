import { constants } from 'node:fs';
import { copyFile, rm } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { RequestFault } from '@/server/http';
import type { JobHandler } from '@/server/jobs';
import {
  filesUnder,
  forgetOriginal,
  keepingBlobs,
  lookOf,
  type OriginalFile,
  sessionOriginals,
} from '@/server/services';
import { blobStore, temporaryPath } from '@/server/storage';
import { isStill } from '../sound-paths';

/** Files of the right size that are read through for one lost file. */
const MOST_READ = 50;

/** Looks for files used in place that are lost: where they were, beside where they were, and below a folder; by name and length first, and never believed without their hash. */
export const findPlaces: JobHandler<'places.find'> = async ({ sessionId, payload, progress, cancel }) => {
  const { folder } = payload;
  const lost = (await sessionOriginals(sessionId as string)).filter((p) => p.state !== 'there');
  const below = folder === null ? [] : await filesUnder(folder);
  let found = 0;
  for (const [i, place] of lost.entries()) {
    const near =
      (await lookOf(place.path)) === null && folder === null ? await filesUnder(dirname(place.path)) : [];
    if (await findOne(place, [place.path, ...near, ...below], cancel)) found += 1;
    progress((i + 1) / lost.length);
  }
  return { result: { found, left: lost.length - found } };
};

async function findOne(
  place: OriginalFile,
  paths: readonly string[],
  cancel: Parameters<typeof isStill>[2],
): Promise<boolean> {
  const name = basename(place.path);
  const candidates = [...new Set(paths)]
    .map((path) => ({ path, same: basename(path) === name }))
    .sort((a, b) => Number(b.same) - Number(a.same));
  let read = 0;
  for (const { path } of candidates) {
    if ((await lookOf(path))?.sizeBytes !== place.sizeBytes) continue;
    if (await isStill(place, path, cancel)) return true;
    read += 1;
    if (read === MOST_READ) return false;
  }
  return false;
}

/** Copies what a session uses in place into the store; each file counts once its copy has its hash. What cannot be copied stays where it is and is named. */
export const copyIn: JobHandler<'places.copy-in'> = async ({ sessionId, progress, cancel }) => {
  const store = blobStore();
  const places = await sessionOriginals(sessionId as string);
  const faults: RequestFault[] = [];
  for (const [i, place] of places.entries()) {
    const path = await temporaryPath();
    try {
      if ((await lookOf(place.path))?.sizeBytes !== place.sizeBytes)
        throw new RequestFault({
          code: place.state === 'changed' ? 'file.changed' : 'file.missing',
          path: place.path,
        });
      await copyFile(place.path, path, constants.COPYFILE_FICLONE);
      if ((await runTask('hash', { path }, { threadPath: readConfig().threadPath, cancel })) !== place.sha256)
        throw new RequestFault({ code: 'file.changed', path: place.path });
      await keepingBlobs(async (transaction) => {
        await store.adopt(path, place.sha256);
        await forgetOriginal(place.sha256, transaction);
      });
    } catch (cause) {
      if (!(cause instanceof RequestFault)) throw cause;
      faults.push(cause);
    } finally {
      await rm(path, { force: true });
    }
    progress((i + 1) / places.length);
  }
  return faults[0] ? { fault: faults[0].fault } : {};
};
