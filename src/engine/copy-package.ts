import { constants } from 'node:fs';
import { copyFile, mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';
import type { ProgressSink } from '@/core/units';
import { hashFile } from './files';
import { verifyPackage } from './verify-package';

/** A package folder and where it is to go. */
export interface CopyInput {
  /** The package's folder. */
  readonly from: string;
  /** Folder it goes into. */
  readonly to: string;
  /** Its name there. */
  readonly name: string;
  /** Names the half copy, so that a repeated attempt finds and removes it. */
  readonly mark: string;
}

/** Where the copy lies until it is whole. */
export const halfCopyPath = ({ to, name, mark }: Pick<CopyInput, 'to' | 'name' | 'mark'>): string =>
  join(to, `.${name}.${mark.slice(0, 8)}.part`);

/** How it went; a system error code as the reason of a failure. */
export type CopyOutcome =
  { readonly state: 'done' } | { readonly state: 'taken' | 'failed'; readonly reason: string };

/**
 * Copies a package beside its target under a hidden name, reads it back, renames it: under its own name there is never half a package.
 * A folder of that name is left alone; if it holds the very same package (an attempt that was killed after its last step), it is done.
 */
export async function copyPackage(input: CopyInput, progress?: ProgressSink): Promise<CopyOutcome> {
  const { from, to, name } = input;
  const target = join(to, name);
  const half = halfCopyPath(input);
  try {
    await rm(half, { recursive: true, force: true });
    if (await stat(target).catch(() => null))
      return (await sameFiles(from, target)) ? { state: 'done' } : { state: 'taken', reason: 'EEXIST' };
    const files = await filesOf(from);
    for (const [i, path] of files.entries()) {
      await mkdir(dirname(join(half, path)), { recursive: true });
      await copyFile(join(from, path), join(half, path), constants.COPYFILE_FICLONE);
      await sync(join(half, path));
      progress?.((0.6 * (i + 1)) / files.length);
    }
    const failed = (await verifyPackage(half, undefined, (share) => progress?.(0.6 + 0.4 * share))).filter(
      (c) => !c.pass,
    );
    if (failed.length > 0 || !(await sameNames(from, half)))
      throw Object.assign(new Error('differs'), { code: 'what was written there reads back differently' });
    await rename(half, target);
    await sync(to);
    return { state: 'done' };
  } catch (cause) {
    await rm(half, { recursive: true, force: true }).catch(() => undefined);
    return { state: 'failed', reason: (cause as NodeJS.ErrnoException).code ?? (cause as Error).message };
  }
}

async function filesOf(root: string): Promise<string[]> {
  const entries = await readdir(root, { recursive: true, withFileTypes: true });
  return entries
    .filter((e) => e.isFile())
    .map((e) => relative(root, join(e.parentPath, e.name)))
    .sort();
}

const sameNames = async (a: string, b: string): Promise<boolean> =>
  (await filesOf(a)).join('\0') === (await filesOf(b)).join('\0');

async function sameFiles(a: string, b: string): Promise<boolean> {
  if (!(await sameNames(a, b))) return false;
  for (const path of await filesOf(a))
    if ((await hashFile(join(a, path))) !== (await hashFile(join(b, path)))) return false;
  return true;
}

async function sync(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}
