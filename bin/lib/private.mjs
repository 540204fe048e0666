// What lies in the data folder is for its owner alone. Dependency-free.
import { chmodSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';

/** Folders that hold recordings and what is made of them. */
const HOLDING = ['blobs', 'packages', 'uploads', 'temporary', 'demo'];

/** Closes a data folder to other users. Root's stays passable: the database in it is run by another user. */
export function keepPrivate(dataDir, isRoot = process.getuid() === 0) {
  for (const name of HOLDING) {
    const path = join(dataDir, name);
    mkdirSync(path, { recursive: true, mode: 0o700 });
    chmodSync(path, 0o700);
  }
  chmodSync(dataDir, isRoot ? 0o711 : 0o700);
}
