import { createHash } from 'node:crypto';
import { link, mkdir, open, readFile, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { readConfig } from '../config';
import { TemporaryFolder } from './temporary';

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

/** Immutable blobs named by their SHA-256; a blob is whole or not there. What is no hash throws RangeError, so that no name becomes a path. */
export interface BlobStore {
  /** Stores bytes from memory; returns their hash. */
  put(bytes: Uint8Array): Promise<string>;
  /** Stores a finished file of this machine whose hash is known; the file stays for the caller to remove. Same content twice is stored once. */
  adopt(path: string, sha256: string): Promise<void>;
  /** Whether a blob is there. */
  has(sha256: string): Promise<boolean>;
  /** All bytes of a small blob. */
  get(sha256: string): Promise<Buffer>;
  /** Removes a blob; no fault if it is not there. */
  delete(sha256: string): Promise<void>;
  /** A path on this machine under which the bytes can be read, and only read: the one way in which paths leave a store. */
  localCopy(sha256: string): Promise<string>;
}

/** Blobs in a folder of this machine, or one that machines share. */
export class FolderStore implements BlobStore {
  constructor(private readonly temporary: TemporaryFolder) {}

  #pathOf(sha256: string): string {
    if (!SHA.test(sha256)) throw new RangeError('not a SHA-256');
    return join(this.temporary.root, 'blobs', sha256.slice(0, 2), sha256);
  }

  async localCopy(sha256: string): Promise<string> {
    return this.#pathOf(sha256);
  }

  async adopt(path: string, sha256: string): Promise<void> {
    const target = this.#pathOf(sha256);
    await mkdir(dirname(target), { recursive: true });
    await syncPath(path, 'r+');
    await link(path, target).catch((error: NodeJS.ErrnoException) => {
      if (error.code !== 'EEXIST') throw error;
    });
    await syncPath(dirname(target), 'r');
  }

  async put(bytes: Uint8Array): Promise<string> {
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const path = await this.temporary.path();
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

  async has(sha256: string): Promise<boolean> {
    return stat(this.#pathOf(sha256)).then(
      () => true,
      () => false,
    );
  }

  async get(sha256: string): Promise<Buffer> {
    return readFile(this.#pathOf(sha256));
  }

  async delete(sha256: string): Promise<void> {
    return rm(this.#pathOf(sha256), { force: true });
  }
}

/** The store of this process. */
export const blobStore = (): BlobStore => new FolderStore(new TemporaryFolder(readConfig().dataDir));
