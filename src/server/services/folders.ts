import { constants } from 'node:fs';
import { access, readdir, realpath, stat } from 'node:fs/promises';
import { dirname, isAbsolute, join, resolve, sep } from 'node:path';
import type { FolderView } from '@/contracts';
import { isSoundName } from '@/core/audio';
import { RequestFault } from '../http';
import { freeBytes } from './room';

const MOST_SHOWN = 1000;
const byName = new Intl.Collator('en', { numeric: true });

/** Folders of this machine that packages may be written to and recordings used from: `FERNMOSS_FOLDERS`, separated by colons. Those that are not there are left out. */
async function allowedRoots(): Promise<string[]> {
  const named = (process.env.FERNMOSS_FOLDERS ?? '').split(':').filter(isAbsolute);
  return (await Promise.all(named.map((p) => realpath(p).catch(() => null)))).filter((p) => p !== null);
}

const isInside = (path: string, root: string): boolean =>
  path === root || path.startsWith(root.endsWith(sep) ? root : root + sep);

/** The real place of a folder, links followed; throws unless it lies in an allowed one. */
export const allowedFolder = (path: string): Promise<string> => allowedPath(path, 'folder.not_there');

/** The same for a file; that it is one is for the caller to see. */
export const allowedFile = (path: string): Promise<string> => allowedPath(path, 'file.missing');

async function allowedPath(path: string, missing: 'folder.not_there' | 'file.missing'): Promise<string> {
  const roots = await allowedRoots();
  const real = await realpath(path).catch(() => null);
  const plain = resolve(path);
  // What is not allowed and what is not there look alike from outside the allowed folders.
  if (real === null)
    throw new RequestFault(
      roots.some((r) => isInside(plain, r)) ? { code: missing, path } : { code: 'folder.not_allowed' },
    );
  if (!roots.some((r) => isInside(real, r))) throw new RequestFault({ code: 'folder.not_allowed' });
  return real;
}

/** The same, and that something can be written there. */
export async function writableFolder(path: string): Promise<string> {
  const real = await allowedFolder(path);
  await access(real, constants.W_OK).catch(() => {
    throw new RequestFault({ code: 'folder.not_writable', path: real, reason: 'not permitted' });
  });
  return real;
}

/** What lies in an allowed folder: folders, and recordings by their names; without a path, the allowed folders themselves. */
export async function listFolders(path: string | null): Promise<FolderView> {
  const roots = await allowedRoots();
  if (path === null)
    return {
      path: null,
      parent: null,
      folders: roots.map((p) => ({ name: p, path: p })),
      files: [],
      otherFiles: 0,
      freeBytes: null,
    };
  const real = await allowedFolder(path);
  const entries = await readdir(real, { withFileTypes: true }).catch(() => {
    throw new RequestFault({ code: 'folder.not_there', path: real });
  });
  const shown = entries.filter((e) => !e.name.startsWith('.')).sort((a, b) => byName.compare(a.name, b.name));
  const at = (name: string): { name: string; path: string } => ({ name, path: join(real, name) });
  const folders = shown.filter((e) => e.isDirectory()).map((e) => at(e.name));
  const plain = shown.filter((e) => e.isFile());
  const files = plain.filter((e) => isSoundName(e.name)).slice(0, MOST_SHOWN);
  return {
    path: real,
    parent: roots.includes(real) ? null : dirname(real),
    folders: folders.slice(0, MOST_SHOWN),
    files: await Promise.all(
      files.map(async (e) => ({
        ...at(e.name),
        sizeBytes: await stat(join(real, e.name)).then(
          (s) => s.size,
          () => 0,
        ),
      })),
    ),
    otherFiles: plain.length - files.length,
    freeBytes: await freeBytes(real),
  };
}
