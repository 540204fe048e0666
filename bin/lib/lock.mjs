// One process at a time works on a data folder. Dependency-free.
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const pathOf = (dataDir) => join(dataDir, 'start.pid');

/** Process id of the one that works on a data folder; null when nobody does. */
export function holderOf(dataDir) {
  if (!existsSync(pathOf(dataDir))) return null;
  const other = Number(readFileSync(pathOf(dataDir), 'utf8'));
  try {
    process.kill(other, 0);
    const isOurs = /\b(start|data)\.mjs/.test(readFileSync(`/proc/${other}/cmdline`, 'utf8'));
    return isOurs && other !== process.pid ? other : null;
  } catch {
    return null;
  }
}

/** Takes the folder for this process; throws in words when another has it. Two would fight over the database. */
export function hold(dataDir) {
  const other = holderOf(dataDir);
  if (other !== null)
    throw new Error(
      `already running on ${dataDir} (process ${other}); stop it first, or set FERNMOSS_DATA to another folder`,
    );
  writeFileSync(pathOf(dataDir), String(process.pid));
}

/** Gives the folder free. */
export const release = (dataDir) => rmSync(pathOf(dataDir), { force: true });
