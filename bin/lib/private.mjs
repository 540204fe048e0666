// What lies in the data folder is for its owner alone. Dependency-free.
import { chmodSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

/** Folders that hold recordings and what is made of them. */
const HOLDING = ['blobs', 'packages', 'uploads', 'temporary', 'demo'];
const OURS = new Set([
  ...HOLDING,
  'database-password',
  'application-password',
  'database-place',
  'start.pid',
]);
const isOurs = (name) => OURS.has(name) || /^(postgres|backup|database)(\.|$)/.test(name);

/** Closes a data folder to other users. Root's stays passable: the database in it is run by another user. One that holds other things than ours keeps its own mode. */
export function keepPrivate(dataDir, isRoot = process.getuid() === 0) {
  const isOnlyOurs = readdirSync(dataDir).every(isOurs);
  for (const name of HOLDING) {
    const path = join(dataDir, name);
    mkdirSync(path, { recursive: true, mode: 0o700 });
    chmodSync(path, 0o700);
  }
  if (isOnlyOurs) chmodSync(dataDir, isRoot ? 0o711 : 0o700);
}
