import { randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { rm, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { toSafeText } from '@/core/naming';
import { readConfig } from '../config';
import { db, isUuid, JobModel, RecordingModel, SessionModel } from '../db';
import { enqueue } from '../jobs';

const MAX_UPLOAD_BYTES = 64 * 2 ** 30;
const MAX_FILES_PER_SESSION = 2000;
/** Kept free for the database and what is derived; an upload that would go below is refused before it begins. */
const RESERVE_BYTES = 64 * 2 ** 20;

const cache = globalThis as { fernmossTus?: Server };

/** The resumable upload end (tus 1.0); a finished upload becomes a recording waiting for its arrival pass. */
export function uploadServer(): Server {
  cache.fernmossTus ??= makeServer();
  return cache.fernmossTus;
}

function makeServer(): Server {
  const directory = join(readConfig().dataDir, 'uploads');
  mkdirSync(directory, { recursive: true });
  return new Server({
    path: '/api/uploads',
    relativeLocation: true,
    maxSize: MAX_UPLOAD_BYTES,
    datastore: new FileStore({ directory }),
    // The id is ours: what a client calls a file never becomes a path.
    namingFunction: () => randomUUID(),
    async onUploadCreate(_request, upload) {
      db();
      const sessionId = upload.metadata?.sessionId ?? '';
      const session = isUuid(sessionId) ? await SessionModel.findByPk(sessionId) : null;
      if (!session) throw { status_code: 404, body: 'session.not_found' };
      if ((await RecordingModel.count({ where: { sessionId } })) >= MAX_FILES_PER_SESSION) throw { status_code: 413, body: 'upload.too_many' };
      if ((await freeBytes(directory)) < (upload.size ?? 0) + RESERVE_BYTES) throw { status_code: 507, body: 'store.disk_full' };
      return { metadata: { ...upload.metadata, name: receivedName(upload.metadata?.name) } };
    },
    async onUploadFinish(_request, upload) {
      await receive(upload.metadata?.sessionId ?? '', receivedName(upload.metadata?.name), join(directory, upload.id), upload.size ?? 0, upload.id);
      await rm(join(directory, `${upload.id}.json`), { force: true });
      return {};
    },
    async onResponseError(_request, error) {
      // The store hides why it could not write: look whether there was room.
      if ((error as NodeJS.ErrnoException).code === 'ENOSPC' || (await freeBytes(directory).catch(() => Infinity)) < RESERVE_BYTES / 4) return { status_code: 507, body: 'store.disk_full' };
      return undefined;
    },
  });
}

const freeBytes = async (folder: string): Promise<number> => {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
};

/** A name as shown: never empty, no control characters, at most 200 characters. */
const receivedName = (name: string | null | undefined): string => toSafeText(name ?? '', 200) || 'unnamed file';

/** A file that is whole, on our disk: recording row and arrival job in one transaction. Repeating it with the same id changes nothing. */
export async function receive(sessionId: string, name: string, path: string, sizeBytes: number, id: string = randomUUID()): Promise<string> {
  await db().transaction(async (transaction) => {
    if (await RecordingModel.findByPk(id, { transaction })) return;
    await RecordingModel.create({ id, sessionId, receivedName: name, sizeBytes, state: 'waiting' }, { transaction });
    await enqueue({ kind: 'recording.arrive', sessionId, subject: name, payload: { recordingId: id, path } }, transaction);
  });
  return id;
}

/** Where the bytes of an upload lie until their arrival pass is done; the id is ours. */
export const uploadPath = (id: string): string => join(readConfig().dataDir, 'uploads', id);

/** Asks a job to stop; it does so at its next step. */
export async function cancelJob(jobId: string): Promise<void> {
  db();
  if (isUuid(jobId)) await JobModel.update({ cancelRequested: true }, { where: { id: jobId, state: ['queued', 'running'] } });
}
