import { readdir } from 'node:fs/promises';

/** Whether the demo was played into a folder: starting makes the folder itself, empty, to keep it from other users. */
export async function hasDemo(folder: string): Promise<boolean> {
  return (await readdir(folder).catch(() => [])).some((name) => name.endsWith('.wav'));
}
