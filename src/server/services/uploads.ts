import { randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { QueryTypes, type Transaction } from 'sequelize';
import { toSafeText } from '@/core/naming';
import { readConfig } from '../config';
import { db, isUuid, RecordingModel, SessionModel } from '../db';
import { enqueue } from '../jobs';
import { syncPath } from '../storage';
import {
  announcedBytes,
  openUploadIds,
  readUploadNote,
  removeUnfinishedNotes,
  removeUploadNote,
  UploadNotes,
} from './open-uploads';
import { freeBytes, RESERVE_BYTES } from './room';

const MAX_UPLOAD_BYTES = 64 * 2 ** 30;
/** Files a session can hold. */
export const MAX_FILES_PER_SESSION = 2000;
/** Uploads begun and not ended, of all sessions together. */
const MOST_OPEN_UPLOADS = 500;
/** Number of the lock under which one file is received. */
const RECEIVE_LOCK = 7_061_978;
const UPLOAD_KEPT_MS = 7 * 86_400_000;
/** Bytes that nothing waits for are kept so long: who wrote them may be about to say what they are. */
const UNCLAIMED_KEPT_MS = 3_600_000;

const cache = globalThis as { fernmossTus?: Server };

/** The resumable upload end (tus 1.0); a finished upload becomes a recording waiting for its arrival pass. */
function uploadServer(): Server {
  cache.fernmossTus ??= makeServer();
  return cache.fernmossTus;
}

function makeServer(): Server {
  const directory = uploadDirectory();
  mkdirSync(directory, { recursive: true });
  return new Server({
    path: '/api/uploads',
    relativeLocation: true,
    maxSize: MAX_UPLOAD_BYTES,
    // Its last byte was acknowledged: only removing the track takes it away.
    disableTerminationForFinishedUploads: true,
    datastore: new FileStore({ directory, configstore: new UploadNotes(directory) }),
    // The id is ours: what a client calls a file never becomes a path.
    namingFunction: () => randomUUID(),
    async onUploadCreate(_request, upload) {
      db();
      const sessionId = upload.metadata?.sessionId ?? '';
      const session = isUuid(sessionId) ? await SessionModel.findByPk(sessionId) : null;
      if (!session) throw { status_code: 404, body: 'session.not_found' };
      if ((await RecordingModel.count({ where: { sessionId } })) >= MAX_FILES_PER_SESSION)
        throw { status_code: 413, body: 'upload.too_many' };
      // Room is kept for what other uploads have announced: all may come at once.
      const open = await announcedBytes(directory);
      if (open.count >= MOST_OPEN_UPLOADS) throw { status_code: 429, body: 'upload.too_many_open' };
      if ((await freeBytes(directory)) < (upload.size ?? 0) + open.outstandingBytes + RESERVE_BYTES)
        throw { status_code: 507, body: 'store.disk_full' };
      return { metadata: { ...upload.metadata, name: receivedName(upload.metadata?.name) } };
    },
    // A crash before or in here is made good by {@link settleUpload}.
    async onUploadFinish(_request, upload) {
      await receive(
        upload.metadata?.sessionId ?? '',
        receivedName(upload.metadata?.name),
        join(directory, upload.id),
        upload.size ?? 0,
        upload.id,
      );
      await removeUploadNote(directory, upload.id);
      return {};
    },
    async onResponseError(_request, error) {
      // The store hides why it could not write: look whether there was room.
      if (
        (error as NodeJS.ErrnoException).code === 'ENOSPC' ||
        (await freeBytes(directory).catch(() => Infinity)) < RESERVE_BYTES / 4
      )
        return { status_code: 507, body: 'store.disk_full' };
      return undefined;
    },
  });
}

/** A name as shown: never empty, no control characters, at most 200 characters. */
export const receivedName = (name: string | null | undefined): string =>
  toSafeText(name ?? '', 200) || 'unnamed file';

/** A file that is whole, on our disk. */
export interface ReceivedFile {
  readonly sessionId: string;
  /** As shown, see {@link receivedName}. */
  readonly name: string;
  readonly path: string;
  readonly sizeBytes: number;
  readonly id: string;
  /** Archives it came out of. */
  readonly depth?: number;
}

/** Recording row and arrival job of a received file; repeating it with the same id changes nothing. */
export async function receiveInto(
  { sessionId, name, path, sizeBytes, id, depth = 0 }: ReceivedFile,
  transaction: Transaction,
): Promise<void> {
  // The web process that has the last byte and the worker that looks after what was left over may both see it whole.
  await db().query('select pg_advisory_xact_lock(:kind, hashtext(:id))', {
    replacements: { kind: RECEIVE_LOCK, id },
    type: QueryTypes.SELECT,
    transaction,
  });
  if (await RecordingModel.findByPk(id, { transaction })) return;
  await RecordingModel.create(
    { id, sessionId, receivedName: name, sizeBytes, state: 'waiting' },
    { transaction },
  );
  await enqueue(
    {
      kind: 'recording.arrive',
      sessionId,
      subject: name,
      payload: { recordingId: id, path, inPlace: false, depth },
    },
    transaction,
  );
}

/** The same in a transaction of its own, after the bytes are on the disk; returns the id. */
export async function receive(
  sessionId: string,
  name: string,
  path: string,
  sizeBytes: number,
  id: string = randomUUID(),
): Promise<string> {
  await syncPath(path, 'r+');
  await db().transaction((transaction) => receiveInto({ sessionId, name, path, sizeBytes, id }, transaction));
  return id;
}

/** How much an archive may give to a session. */
export async function archiveRoom(
  sessionId: string,
): Promise<{ readonly mostEntries: number; readonly mostBytes: number }> {
  db();
  return {
    mostEntries: Math.max(0, MAX_FILES_PER_SESSION - (await RecordingModel.count({ where: { sessionId } }))),
    mostBytes: Math.max(0, (await freeBytes()) - RESERVE_BYTES),
  };
}

/** Answers a request for uploads. */
export async function serveUpload(request: Request): Promise<Response> {
  // Who asks how far an upload is may believe it done: then it must be.
  const id = new URL(request.url).pathname.split('/').at(-1) ?? '';
  if (request.method === 'HEAD' && isUuid(id)) {
    await settleUpload(id);
    // The answer to its last part was lost: it is told here that nothing is left to send.
    const received = await RecordingModel.findByPk(id, { attributes: ['sizeBytes'] });
    if (received)
      return new Response(null, {
        status: 200,
        headers: {
          'tus-resumable': '1.0.0',
          'upload-offset': String(received.sizeBytes),
          'upload-length': String(received.sizeBytes),
          'cache-control': 'no-store',
        },
      });
  }
  if (request.method === 'DELETE' && isUuid(id) && (await hasReceived(id)))
    return new Response('upload.received', { status: 403, headers: { 'tus-resumable': '1.0.0' } });
  return uploadServer().handleWeb(request);
}

/** Whether all bytes of an upload came; if so it is a recording from now on. */
async function hasReceived(id: string): Promise<boolean> {
  await settleUpload(id);
  return (await RecordingModel.findByPk(id, { attributes: ['id'] })) !== null;
}

/** An upload whose last byte came but which was never received, because a process was killed in that moment, is received now; one of a session that is gone goes, one that nobody has touched for a week, and one whose note cannot be read: nobody can go on with it. */
async function settleUpload(id: string): Promise<void> {
  db();
  const directory = uploadDirectory();
  const upload = await readUploadNote(directory, id);
  if (!upload) return removeUploadNote(directory, id);
  const bytes = await stat(uploadPath(id)).catch(() => null);
  const sessionId = upload.metadata?.sessionId ?? '';
  const isWanted =
    isUuid(sessionId) && (await SessionModel.findByPk(sessionId, { attributes: ['id'] })) !== null;
  if (bytes && bytes.size === upload.size && isWanted) {
    await receive(sessionId, receivedName(upload.metadata?.name), uploadPath(id), bytes.size, id);
    await removeUploadNote(directory, id);
  } else if (!bytes || !isWanted || Date.now() - bytes.mtimeMs > UPLOAD_KEPT_MS) {
    if (bytes && !(await RecordingModel.findByPk(id, { attributes: ['id'] })))
      await rm(uploadPath(id), { force: true });
    await removeUploadNote(directory, id);
  }
}

/** Looks after all uploads that are not closed, and removes bytes that no recording waits for any more. */
export async function settleUploads(): Promise<void> {
  const directory = uploadDirectory();
  for (const id of await openUploadIds(directory)) await settleUpload(id);
  await removeUnfinishedNotes(directory, UNCLAIMED_KEPT_MS);
  const open = new Set(await openUploadIds(directory));
  const ids = (await readdir(directory).catch(() => [] as string[])).filter(isUuid);
  // Asked after the files were seen: a row that comes meanwhile is of a file that is young.
  const waiting = new Set(
    (
      await RecordingModel.findAll({
        where: { id: ids, state: ['waiting', 'arriving', 'failed'] },
        attributes: ['id'],
      })
    ).map((r) => r.id),
  );
  for (const id of ids) {
    if (open.has(id) || waiting.has(id)) continue;
    const bytes = await stat(uploadPath(id)).catch(() => null);
    if (bytes && Date.now() - bytes.mtimeMs > UNCLAIMED_KEPT_MS) await rm(uploadPath(id), { force: true });
  }
}

/** Removes what of a deleted session's uploads had come so far; its recordings were read before. */
export async function dropUploads(recordingIds: readonly string[]): Promise<void> {
  for (const id of await openUploadIds(uploadDirectory())) await settleUpload(id);
  for (const id of recordingIds) await rm(uploadPath(id), { force: true });
}

const uploadDirectory = (): string => join(readConfig().dataDir, 'uploads');

/** Where the bytes of an upload lie until their arrival pass is done; the id is ours. */
export const uploadPath = (id: string): string => join(uploadDirectory(), id);
