import { statfs } from 'node:fs/promises';
import { readConfig } from '../config';
import { RequestFault } from '../http';

/** Kept free for the database and what is derived; nothing is begun that would go below. */
export const RESERVE_BYTES = 64 * 2 ** 20;

/** Bytes free where recordings are kept, or in another folder. */
export async function freeBytes(folder: string = readConfig().dataDir): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

/** Refuses what would not fit, before it begins. */
export async function mustFit(neededBytes: number, folder?: string): Promise<void> {
  const free = (await freeBytes(folder)) - RESERVE_BYTES;
  if (free < neededBytes)
    throw new RequestFault({
      code: 'store.no_room',
      neededBytes: Math.round(neededBytes),
      freeBytes: Math.max(0, free),
    });
}
