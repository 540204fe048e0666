import { constants } from 'node:fs';
import { access, readdir, realpath } from 'node:fs/promises';
import { basename, dirname, isAbsolute, resolve, sep } from 'node:path';
import type { FolderView } from '@/contracts';
import { RequestFault } from '../http';
import { freeBytes } from './room';

const MOST_SHOWN = 1000;

/** Folders of this machine that packages may be written to: `FERNMOSS_FOLDERS`, separated by colons. Those that are not there are left out. */
async function allowedRoots(): Promise<string[]> {
  const named = (process.env.FERNMOSS_FOLDERS ?? '').split(':').filter(isAbsolute);
  return (await Promise.all(named.map((p) => realpath(p).catch(() => null)))).filter((p) => p !== null);
}

const isInside = (path: string, root: string): boolean => path === root || path.startsWith(root.endsWith(sep) ? root : root + sep);

/** The real place of a folder, links followed; throws unless it lies in an allowed one. */
export async function allowedFolder(path: string): Promise<string> {
  const roots = await allowedRoots();
  const real = await realpath(path).catch(() => null);
  const plain = resolve(path);
  // What is not allowed and what is not there look alike from outside the allowed folders.
  if (real === null) throw new RequestFault(roots.some((r) => isInside(plain, r)) ? { code: 'folder.not_there', path } : { code: 'folder.not_allowed' });
  if (!roots.some((r) => isInside(real, r))) throw new RequestFault({ code: 'folder.not_allowed' });
  return real;
}

/** The same, and that something can be written there. */
export async function writableFolder(path: string): Promise<string> {
  const real = await allowedFolder(path);
  await access(real, constants.W_OK).catch(() => { throw new RequestFault({ code: 'folder.not_writable', path: real, reason: 'not permitted' }); });
  return real;
}

/** What lies in an allowed folder; without a path, the allowed folders themselves. */
export async function listFolders(path: string | null): Promise<FolderView> {
  const roots = await allowedRoots();
  if (path === null) return { path: null, parent: null, folders: roots.map((p) => ({ name: p, path: p })), freeBytes: null };
  const real = await allowedFolder(path);
  const entries = await readdir(real, { withFileTypes: true }).catch(() => { throw new RequestFault({ code: 'folder.not_there', path: real }); });
  const folders = entries.filter((e) => e.isDirectory() && !e.name.startsWith('.')).map((e) => ({ name: e.name, path: `${real === sep ? '' : real}${sep}${e.name}` })).sort((a, b) => (basename(a.path) < basename(b.path) ? -1 : 1));
  return { path: real, parent: roots.includes(real) ? null : dirname(real), folders: folders.slice(0, MOST_SHOWN), freeBytes: await freeBytes(real) };
}
