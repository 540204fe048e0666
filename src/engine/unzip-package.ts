import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { openPromise } from 'yauzl';

const MOST_ENTRIES = 5000;
const MOST_BYTES = 256 * 2 ** 30;

/** Why a ZIP is not a package that can be looked at. */
export class NotAPackage extends Error {}

/**
 * Takes a package's ZIP apart into an empty folder; returns the path of its one top folder.
 * Throws NotAPackage for broken ZIPs, paths that would leave the folder, and anything beyond 5000 entries or 256 GiB.
 */
export async function unzipPackage(zipPath: string, intoDir: string): Promise<string> {
  const zip = await openPromise(zipPath, { lazyEntries: true, autoClose: false }).catch((cause: unknown) => {
    throw new NotAPackage('it cannot be read as a ZIP', { cause });
  });
  const tops = new Set<string>();
  let entries = 0;
  let bytes = 0;
  try {
    // yauzl itself refuses absolute paths, backslashes and “..”.
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName.endsWith('/')) continue;
      bytes += entry.uncompressedSize;
      if (++entries > MOST_ENTRIES || bytes > MOST_BYTES)
        throw new NotAPackage('it holds more than a package may');
      const [top, ...rest] = entry.fileName.split('/');
      if (!top || rest.length === 0) throw new NotAPackage('it has no single top folder');
      tops.add(top);
      const path = join(intoDir, entry.fileName);
      await mkdir(dirname(path), { recursive: true });
      await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(path, { flags: 'wx' }));
    }
  } catch (cause) {
    throw cause instanceof NotAPackage ? cause : new NotAPackage('it is damaged', { cause });
  } finally {
    zip.close();
  }
  const [top] = tops;
  if (tops.size !== 1 || top === undefined) throw new NotAPackage('it has no single top folder');
  return join(intoDir, top);
}
