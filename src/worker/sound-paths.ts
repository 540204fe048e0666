import { runTask } from '@/engine';
import type { CancelSignal } from '@/core/units';
import { readConfig } from '@/server/config';
import { RequestFault } from '@/server/http';
import { keepOriginal, lookOf, type OriginalFile, originalsOf } from '@/server/services';
import { blobStore } from '@/server/storage';

/** Where the bytes of blobs lie, for work over all of them: a file used in place that was touched since is read through first. Throws RequestFault if one is gone or changed. */
export async function soundPaths(
  shas: readonly string[],
  cancel?: CancelSignal,
): Promise<(sha256: string) => string> {
  const places = await originalsOf(shas);
  for (const place of places.values()) {
    if (place.state === 'there' || (await isStill(place, place.path, cancel))) continue;
    throw new RequestFault({
      code: place.state === 'missing' ? 'file.missing' : 'file.changed',
      path: place.path,
    });
  }
  const paths = new Map<string, string>();
  for (const sha of new Set(shas))
    paths.set(sha, places.get(sha)?.path ?? (await blobStore().localCopy(sha)));
  return (sha256) => paths.get(sha256) as string;
}

/** Works on the bytes of blobs, and looks again afterwards: what was made from a file that was written over meanwhile must not be kept. Throws as {@link soundPaths}. */
export async function withSounds<T>(
  shas: readonly string[],
  cancel: CancelSignal | undefined,
  work: (pathOf: (sha256: string) => string) => Promise<T>,
): Promise<T> {
  const made = await work(await soundPaths(shas, cancel));
  await soundPaths(shas, cancel);
  return made;
}

/** Whether a file holds these very bytes; if so, that is where they lie from now on. */
export async function isStill(place: OriginalFile, path: string, cancel?: CancelSignal): Promise<boolean> {
  const look = await lookOf(path);
  if (look?.sizeBytes !== place.sizeBytes) return false;
  if ((await runTask('hash', { path }, { threadPath: readConfig().threadPath, cancel })) !== place.sha256)
    return false;
  await keepOriginal(place.sha256, path, look);
  return true;
}
