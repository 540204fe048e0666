import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from './programs';
import { until } from './server';

/** A start of the whole on its own data folder, and its address once it says it. */
export async function start(
  dataDir: string,
): Promise<{ child: ChildProcess; base: string; seconds: number; lines: string[] }> {
  const begin = Date.now();
  const child = spawn('node', [join(ROOT, 'bin/start.mjs')], {
    env: { ...process.env, FERNMOSS_DATA: dataDir, FERNMOSS_DEMO: 'off', PORT: '4810' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const lines: string[] = [];
  let text = '';
  const take = (part: Buffer): void => {
    text += String(part);
    lines.splice(0, lines.length, ...text.split('\n').filter(Boolean));
  };
  child.stdout?.on('data', take);
  child.stderr?.on('data', take);
  const base = await until(
    async () => (child.exitCode === null ? /open (http:\S+)/.exec(text)?.[1] : 'it ended'),
    'the start to say its address',
    150_000,
  ).catch((cause: unknown) => {
    child.kill('SIGTERM');
    throw new Error(`${(cause as Error).message}; it said: ${text}`);
  });
  if (child.exitCode !== null) throw new Error(`the start ended with ${child.exitCode}: ${text}`);
  return { child, base, seconds: (Date.now() - begin) / 1000, lines };
}
/** Waits for a process to end. */
export const ended = (child: ChildProcess): Promise<number | null> =>
  new Promise((resolve) =>
    child.exitCode !== null || child.signalCode !== null
      ? resolve(child.exitCode)
      : child.once('exit', (code) => resolve(code)),
  );
/** Asks a running Fernmoss; with a body it posts. */
export const json = async <T>(base: string, path: string, body?: unknown): Promise<T> =>
  (
    await fetch(
      base + path,
      body === undefined
        ? {}
        : { method: 'POST', body: JSON.stringify(body), headers: { 'content-type': 'application/json' } },
    )
  ).json() as Promise<T>;

/** A data folder, on a disk of a given size if wanted. */
export function folderFor(size?: string): { dir: string; remove: () => void } {
  const dir = mkdtempSync(join(tmpdir(), 'fernmoss-start-'));
  chmodSync(dir, 0o755);
  if (
    size !== undefined &&
    spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${size},mode=755`, 'tmpfs', dir]).status !== 0
  )
    throw new Error('cannot mount a small disk');
  return {
    dir,
    remove: () => {
      if (size !== undefined) spawnSync('umount', ['-l', dir]);
      rmSync(dir, { recursive: true, force: true });
    },
  };
}
