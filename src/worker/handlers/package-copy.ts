import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Fault } from '@/contracts';
import { halfCopyPath, runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { db, HandoverModel } from '@/server/db';
import { RequestFault } from '@/server/http';
import type { JobHandler } from '@/server/jobs';
import { packageDir, writableFolder } from '@/server/services';

/** Writes a finished package into an allowed folder of this machine, reads it back there, and only then gives it its name. */
export const packageCopy: JobHandler<'package.copy'> = async ({ payload, progress, cancel }) => {
  const { handoverId, folder } = payload;
  const row = await HandoverModel.findByPk(handoverId);
  if (row?.state !== 'done') return { fault: { code: 'request.not_found' } };
  const place = await writableFolder(folder).catch((cause: unknown) => {
    if (cause instanceof RequestFault) return cause.fault;
    throw cause;
  });
  if (typeof place !== 'string') return { fault: place };
  const target = join(place, row.folderName);
  const input = {
    from: join(packageDir(row.sessionId, row.id), row.folderName),
    to: place,
    name: row.folderName,
    mark: row.id,
  };
  const written = await runTask('copy', input, {
    threadPath: readConfig().threadPath,
    progress,
    cancel,
  }).catch(async (cause: unknown) => {
    // Withdrawn in the middle: nothing of it stays.
    await rm(halfCopyPath(input), { recursive: true, force: true });
    throw cause;
  });
  if (written.state !== 'done') return { fault: faultOf(written, target) };
  await db().transaction(async (transaction) => {
    const now = await HandoverModel.findByPk(handoverId, { transaction, lock: transaction.LOCK.UPDATE });
    const copies = (now?.copies ?? []) as { path: string; at: string }[];
    if (now && !copies.some((c) => c.path === target))
      await now.update(
        { copies: [...copies, { path: target, at: new Date().toISOString() }] },
        { transaction },
      );
  });
  return {};
};

function faultOf(
  written: { readonly state: 'taken' | 'failed'; readonly reason: string },
  target: string,
): Fault {
  if (written.state === 'taken') return { code: 'delivery.folder_taken', path: target };
  return written.reason === 'ENOSPC'
    ? { code: 'store.disk_full' }
    : { code: 'folder.not_writable', path: target, reason: written.reason };
}
