import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { readConfig } from '../config';

const TEMPORARY = 'temporary';

/** The folder in which this process writes what is not whole yet: its own, so that others can tell what nobody writes any more. */
const own = { folder: `${hostname()}-${process.pid}` };

/** Gives this process's temporary folder another name. */
export const nameTemporaryFolder = (name: string): void => void (own.folder = name);

/** Bytes that are being written on this machine and are not whole yet. */
export class TemporaryFolder {
  constructor(
    readonly root: string,
    private readonly folder: string = own.folder,
  ) {}

  /** A fresh path; lost ones are swept by {@link TemporaryFolder.sweep}. */
  async path(): Promise<string> {
    const folder = join(this.root, TEMPORARY, this.folder);
    await mkdir(folder, { recursive: true, mode: 0o700 });
    return join(folder, randomUUID());
  }

  /** Removes half-written bytes of processes that are no more; `living` names the folders of workers that are. */
  async sweep(living: ReadonlySet<string>): Promise<void> {
    const root = join(this.root, TEMPORARY);
    for (const entry of await readdir(root, { withFileTypes: true }).catch(() => [])) {
      const isUsed = entry.isDirectory() && (living.has(entry.name) || isOfLivingProcess(entry.name));
      if (!isUsed) await rm(join(root, entry.name), { recursive: true, force: true });
    }
  }
}

/** Whether a folder is that of a process of this machine that lives, or of any process of another machine. */
function isOfLivingProcess(folder: string): boolean {
  const [, host, pid] = /^(.+)-(\d+)$/.exec(folder) ?? [];
  if (host === undefined || host === 'worker') return false;
  if (host !== hostname()) return true;
  try {
    process.kill(Number(pid), 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** See {@link TemporaryFolder.path}. */
export const temporaryPath = (): Promise<string> => new TemporaryFolder(readConfig().dataDir).path();

/** See {@link TemporaryFolder.sweep}. */
export const sweepTemporary = (living: ReadonlySet<string>): Promise<void> =>
  new TemporaryFolder(readConfig().dataDir).sweep(living);
