// One line of progress a step; dependency-free.
import { fileURLToPath } from 'node:url';
import { dirname, join, resolve } from 'node:path';

/** Root of the checkout. */
export const ROOT = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

/** Where everything lies: the folder the settings name, or one in the checkout. */
export const dataFolder = () => resolve(process.env.FERNMOSS_DATA ?? join(ROOT, 'var', 'data'));

/** A step's line. */
export const say = (text) => console.log(`fernmoss · ${text}`);

/** Ends the process with a message for people. */
export function giveUp(text) {
  console.error(`fernmoss · ${text}`);
  process.exit(1);
}
