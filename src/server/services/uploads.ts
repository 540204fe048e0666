import { randomUUID } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { readdir, readFile, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import { QueryTypes, type Transaction } from 'sequelize';
import { toSafeText } from '@/core/naming';
import { readConfig } from '../config';
import { db, isUuid, RecordingModel, SessionModel } from '../db';
import { enqueue } from '../jobs';
import { freeBytes, RESERVE_BYTES } from './room';

const MAX_UPLOAD_BYTES = 64 * 2 ** 30;
/** Files a session can hold. */
export const MAX_FILES_PER_SESSION = 2000;
/** Number of the lock under which one file is received. */
const RECEIVE_LOCK = 7_061_978;
const UPLOAD_KEPT_MS = 7 * 86_400_000;

const cache = globalThis as { fernmossTus?: Server };

/** The resumable upload end (tus 1.0); a finished upload becomes a recording waiting for its arrival pass. */
function uploadServer(): Server {
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
      if ((await RecordingModel.count({ where: { sessionId } })) >= MAX_FILES_PER_SESSION)
        throw { status_code: 413, body: 'upload.too_many' };
      if ((await freeBytes(directory)) < (upload.size ?? 0) + RESERVE_BYTES)
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
      await rm(join(directory, `${upload.id}.json`), { force: true });
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
    { kind: 'recording.arrive', sessionId, subject: name, payload: { recordingId: id, path, depth } },
    transaction,
  );
}

/** The same in a transaction of its own; returns the id. */
export async function receive(
  sessionId: string,
  name: string,
  path: string,
  sizeBytes: number,
  id: string = randomUUID(),
): Promise<string> {
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
  return uploadServer().handleWeb(request);
}

/** An upload whose last byte came but which was never received, because a process was killed in that moment, is received now; one that nobody has touched for a week goes. */
async function settleUpload(id: string): Promise<void> {
  const note = `${uploadPath(id)}.json`;
  db();
  const upload = await readFile(note, 'utf8').then(
    (text) => JSON.parse(text) as { size?: number; metadata?: Record<string, string | null> },
    () => null,
  );
  if (!upload) return;
  const bytes = await stat(uploadPath(id)).catch(() => null);
  const sessionId = upload.metadata?.sessionId ?? '';
  if (
    bytes &&
    bytes.size === upload.size &&
    isUuid(sessionId) &&
    (await SessionModel.findByPk(sessionId, { attributes: ['id'] }))
  ) {
    await receive(sessionId, receivedName(upload.metadata?.name), uploadPath(id), bytes.size, id);
    await rm(note, { force: true });
  } else if (!bytes || Date.now() - bytes.mtimeMs > UPLOAD_KEPT_MS) {
    if (bytes && !(await RecordingModel.findByPk(id, { attributes: ['id'] })))
      await rm(uploadPath(id), { force: true });
    await rm(note, { force: true });
  }
}

/** Looks after all uploads that are not closed. */
export async function settleUploads(): Promise<void> {
  const names = await readdir(join(readConfig().dataDir, 'uploads')).catch(() => [] as string[]);
  for (const name of names)
    if (name.endsWith('.json') && isUuid(name.slice(0, -5))) await settleUpload(name.slice(0, -5));
}

/** Where the bytes of an upload lie until their arrival pass is done; the id is ours. */
export const uploadPath = (id: string): string => join(readConfig().dataDir, 'uploads', id);
