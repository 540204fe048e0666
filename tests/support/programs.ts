import { execFileSync, spawnSync } from 'node:child_process';
import { join } from 'node:path';

/** Root of the checkout: tests are run from there. */
export const ROOT = process.cwd();

/** Standard output of a program; throws with its words if it fails. */
export const run = (program: string, args: readonly string[], input?: string): string =>
  execFileSync(program, args, {
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    ...(input === undefined ? {} : { input }),
    stdio: ['pipe', 'pipe', 'pipe'],
  });

/** Runs our command line. */
export function fernmoss(
  args: readonly string[],
  input?: string,
): { readonly status: number | null; readonly out: string; readonly err: string } {
  const done = spawnSync('node', [join(ROOT, 'dist', 'fernmoss.mjs'), ...args], {
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    ...(input === undefined ? {} : { input }),
  });
  return { status: done.status, out: done.stdout, err: done.stderr };
}

/** Its JSON answer. */
export const fernmossJson = <T>(args: readonly string[], input?: string): T =>
  JSON.parse(fernmoss([...args, '--json'], input).out) as T;
