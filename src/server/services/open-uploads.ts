import { mkdir, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { KvStore, Upload } from '@tus/server';
import { number, object, string } from 'yup';
import { isUuid } from '../db';

/** What an upload says of itself beside its bytes. */
export interface UploadNote {
  /** Bytes announced. */
  readonly size?: number;
  readonly metadata?: Record<string, string | null>;
}

const NOTE = '.json';
/** A note while it is being written. */
const UNFINISHED = '.new';

const noteSchema = object({
  size: number().integer().min(0),
  metadata: object({
    sessionId: string().nullable(),
    name: string().nullable(),
  }),
});

/** The note of an upload; null when there is none (any more) or it cannot be read: a process or the machine was stopped while it was written. */
export async function readUploadNote(directory: string, id: string): Promise<UploadNote | null> {
  try {
    const read: unknown = JSON.parse(await readFile(notePath(directory, id), 'utf8'));
    noteSchema.required().validateSync(read, { strict: true });
    return read as UploadNote;
  } catch {
    return null;
  }
}

/** Notes of uploads as files beside their bytes. A note appears whole or not at all: others read it at any time, and a process may be killed at any time. */
export class UploadNotes implements KvStore<Upload> {
  constructor(private readonly directory: string) {}

  async get(id: string): Promise<Upload | undefined> {
    return ((await readUploadNote(this.directory, id)) as Upload | null) ?? undefined;
  }

  async set(id: string, upload: Upload): Promise<void> {
    await mkdir(this.directory, { recursive: true });
    const path = notePath(this.directory, id);
    const handle = await open(`${path}${UNFINISHED}`, 'w');
    try {
      await handle.writeFile(JSON.stringify(upload));
      await handle.sync();
    } finally {
      await handle.close();
    }
    await rename(`${path}${UNFINISHED}`, path);
  }

  delete(id: string): Promise<void> {
    return removeUploadNote(this.directory, id);
  }
}

const notePath = (directory: string, id: string): string => {
  if (!isUuid(id)) throw new Error('not the id of an upload');
  return join(directory, `${id}${NOTE}`);
};

/** Closes an upload. */
export const removeUploadNote = (directory: string, id: string): Promise<void> =>
  rm(notePath(directory, id), { force: true });

/** Removes what is left of notes that a process was killed at writing. */
export async function removeUnfinishedNotes(directory: string, untouchedForMs: number): Promise<void> {
  for (const id of await idsEndingIn(directory, `${NOTE}${UNFINISHED}`)) {
    const path = `${notePath(directory, id)}${UNFINISHED}`;
    const left = await stat(path).catch(() => null);
    if (left && Date.now() - left.mtimeMs > untouchedForMs) await rm(path, { force: true });
  }
}

/** Ids of the uploads that are not closed. */
export const openUploadIds = (directory: string): Promise<string[]> => idsEndingIn(directory, NOTE);

const idsEndingIn = async (directory: string, end: string): Promise<string[]> =>
  (await readdir(directory).catch(() => [] as string[]))
    .filter((name) => name.endsWith(end) && isUuid(name.slice(0, -end.length)))
    .map((name) => name.slice(0, -end.length));

/** How many uploads are open, and how many bytes they have announced and not sent yet. */
export async function announcedBytes(
  directory: string,
): Promise<{ readonly count: number; readonly outstandingBytes: number }> {
  const ids = await openUploadIds(directory);
  let outstandingBytes = 0;
  for (const id of ids) {
    const note = await readUploadNote(directory, id);
    const sent = await stat(join(directory, id)).catch(() => null);
    outstandingBytes += Math.max(0, (note?.size ?? 0) - (sent?.size ?? 0));
  }
  return { count: ids.length, outstandingBytes };
}
