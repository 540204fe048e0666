// What lies in the data folder is for its owner alone. Dependency-free.
import { chmodSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

/** Folders that hold recordings and what is made of them. */
const HOLDING = ['blobs', 'packages', 'uploads', 'temporary', 'demo'];
const OURS = new Set([...HOLDING, 'postgres', 'postgres.new', 'database-password', 'start.pid']);

/** Closes a data folder to other users. Root's stays passable: the database in it is run by another user. One that holds other things than ours keeps its own mode. */
export function keepPrivate(dataDir, isRoot = process.getuid() === 0) {
  const isOurs = readdirSync(dataDir).every((name) => OURS.has(name));
  for (const name of HOLDING) {
    const path = join(dataDir, name);
    mkdirSync(path, { recursive: true, mode: 0o700 });
    chmodSync(path, 0o700);
  }
  if (isOurs) chmodSync(dataDir, isRoot ? 0o711 : 0o700);
}
