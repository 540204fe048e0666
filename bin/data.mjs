#!/usr/bin/env node
// Back-up, restoring, and moving to a newer PostgreSQL: `npm run backup -- FOLDER`, `npm run restore -- BACKUP`, `npm run upgrade`.
import { resolve } from 'node:path';
import { backUp, restore, upgrade } from './lib/backup.mjs';
import { ensureDebianPackages } from './lib/packages.mjs';
import { dataFolder, say } from './lib/say.mjs';

const USE = `use:
  npm run backup -- FOLDER    writes a new folder below FOLDER with everything; Fernmoss may run meanwhile
  npm run restore -- BACKUP   makes the data folder from a back-up; the one that is there is kept beside it
  npm run upgrade             moves the data to the newest PostgreSQL that is installed (-- --again: also to the same)
The data folder is FERNMOSS_DATA, or var/data.`;

const megabytes = (bytes) => `${(bytes / 1e6).toFixed(1)} MB`;
const plural = (count, what) => `${count} ${what}${count === 1 ? '' : 's'}`;
const notInside = (count) =>
  count > 0 ? `; not in it: ${plural(count, 'recording')} used in place, which stay where they are` : '';

const [command, ...args] = process.argv.slice(2);
const dataDir = dataFolder();

/** Runs a command; returns its exit status. */
async function act() {
  if (command === 'backup' && args.length === 1) {
    const made = await backUp(dataDir, resolve(args[0]));
    say(
      `${plural(made.sessions, 'session')}, ${megabytes(made.bytes)} in ${made.folder}${notInside(made.inPlace)}`,
    );
    for (const file of made.damaged)
      say(`damaged before the back-up: ${file} (its bytes are not what their name says)`);
    return made.damaged.length > 0 ? 1 : 0;
  }
  if (command === 'restore' && args.length === 1) {
    const made = await restore(resolve(args[0]), dataDir);
    say(
      `${plural(made.sessions, 'session')} of ${made.made.slice(0, 16).replace('T', ' ')} UTC in ${dataDir}${notInside(made.inPlace)}`,
    );
    if (made.aside !== null) say(`what was there before is in ${made.aside}`);
    return 0;
  }
  if (command === 'upgrade' && (args.length === 0 || args[0] === '--again')) {
    const made = await upgrade(dataDir, args[0] === '--again');
    if (made === null) say('the data is the newest PostgreSQL’s already; nothing to do');
    else
      say(`moved from PostgreSQL ${made.from} to ${made.to}; the former database is kept in ${made.aside}`);
    return 0;
  }
  console.error(USE);
  return 2;
}

if (args.includes('--help') || command === '--help') {
  console.log(USE);
  process.exit(0);
}
ensureDebianPackages(['postgresql']);
try {
  process.exitCode = await act();
} catch (error) {
  console.error(`fernmoss · ${error.message}`);
  process.exitCode = 1;
}
