import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { isUuid } from '../db';

/** What an upload says of itself beside its bytes. */
export interface UploadNote {
  /** Bytes announced. */
  readonly size?: number;
  readonly metadata?: Record<string, string | null>;
}

/** The note of an upload; null when there is none (any more). */
export const readUploadNote = (directory: string, id: string): Promise<UploadNote | null> =>
  readFile(join(directory, `${id}.json`), 'utf8').then(
    (text) => JSON.parse(text) as UploadNote,
    () => null,
  );

/** Ids of the uploads that are not closed. */
export const openUploadIds = async (directory: string): Promise<string[]> =>
  (await readdir(directory).catch(() => [] as string[]))
    .filter((name) => name.endsWith('.json') && isUuid(name.slice(0, -5)))
    .map((name) => name.slice(0, -5));

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
