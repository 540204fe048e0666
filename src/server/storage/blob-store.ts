import { createHash, randomUUID } from 'node:crypto';
import { link, mkdir, open, readdir, readFile, rm, stat } from 'node:fs/promises';
import { hostname } from 'node:os';
import { dirname, join } from 'node:path';
import { readConfig } from '../config';

const TEMPORARY = 'temporary';
const SHA = /^[0-9a-f]{64}$/;

/** Waits until what was written to a file or folder is on the disk. */
export async function syncPath(path: string, flags: string): Promise<void> {
  const handle = await open(path, flags);
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Bytes `[from, to)` of a file; fewer where it ends before. */
export async function readRange(path: string, from: number, to: number): Promise<Uint8Array> {
  const handle = await open(path, 'r');
  try {
    const bytes = new Uint8Array(Math.max(0, to - from));
    const { bytesRead } = await handle.read(bytes, 0, bytes.length, from);
    return bytes.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/** The folder in which this process writes what is not whole yet: its own, so that others can tell what nobody writes any more. */
const own = { folder: `${hostname()}-${process.pid}` };

/** Gives this process's temporary folder another name. */
export const nameTemporaryFolder = (name: string): void => void (own.folder = name);

/** Immutable blobs in a local folder, named by their SHA-256; a blob is whole or not there. */
export class BlobStore {
  constructor(
    readonly root: string,
    private readonly temporaryFolder: string = own.folder,
  ) {}

  /** Path of a blob's bytes. Throws RangeError for anything that is not a hash, so that no name becomes a path. */
  pathOf(sha256: string): string {
    if (!SHA.test(sha256)) throw new RangeError('not a SHA-256');
    return join(this.root, 'blobs', sha256.slice(0, 2), sha256);
  }

  /** A fresh path for bytes being written; lost ones are swept by {@link BlobStore.sweepTemporary}. */
  async temporaryPath(): Promise<string> {
    const folder = join(this.root, TEMPORARY, this.temporaryFolder);
    await mkdir(folder, { recursive: true, mode: 0o700 });
    return join(folder, randomUUID());
  }

  /** Gives a finished file whose hash is known a second name in the store; the first stays for the caller to remove. Same content twice is stored once. */
  async adopt(path: string, sha256: string): Promise<void> {
    const target = this.pathOf(sha256);
    await mkdir(dirname(target), { recursive: true });
    await syncPath(path, 'r+');
    await link(path, target).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'EEXIST') throw error;
    });
    await syncPath(dirname(target), 'r');
  }

  /** Stores bytes from memory; returns their hash. */
  async put(bytes: Uint8Array): Promise<string> {
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const path = await this.temporaryPath();
    const handle = await open(path, 'wx');
    try {
      await handle.writeFile(bytes);
    } finally {
      await handle.close();
    }
    await this.adopt(path, sha256);
    await rm(path, { force: true });
    return sha256;
  }

  /** Whether a blob is there. */
  async has(sha256: string): Promise<boolean> {
    return stat(this.pathOf(sha256)).then(
      () => true,
      () => false,
    );
  }

  /** All bytes of a small blob. */
  get(sha256: string): Promise<Buffer> {
    return readFile(this.pathOf(sha256));
  }

  /** Removes a blob; no fault if it is not there. */
  delete(sha256: string): Promise<void> {
    return rm(this.pathOf(sha256), { force: true });
  }

  /** Removes half-written bytes of processes that are no more; `living` names the folders of workers that are. */
  async sweepTemporary(living: ReadonlySet<string>): Promise<void> {
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

/** The store of this process. */
export const blobStore = (): BlobStore => new BlobStore(readConfig().dataDir);

/** See {@link BlobStore.sweepTemporary}. */
export const sweepTemporary = (living: ReadonlySet<string>): Promise<void> =>
  blobStore().sweepTemporary(living);
