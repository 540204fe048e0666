import { spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { SessionListItem, SessionView } from '@/contracts';
import { ROOT } from '../support/programs';
import { tone, wavBytes } from '../support/recordings';
import { pidOf, until, uploadTo } from '../support/server';
import { ended, folderFor, json, start } from '../support/start';

const act = (dataDir: string, ...args: string[]): { status: number | null; said: string } => {
  const done = spawnSync('node', [join(ROOT, 'bin/data.mjs'), ...args], {
    env: { ...process.env, FERNMOSS_DATA: dataDir },
    encoding: 'utf8',
  });
  return { status: done.status, said: done.stdout + done.stderr };
};

let dir: string;
let remove: () => void;
const store = mkdtempSync(join(tmpdir(), 'fernmoss-backups-'));
const running: ChildProcess[] = [];
beforeAll(() => ({ dir, remove } = folderFor()));
afterAll(() => {
  running.forEach((c) => c.kill('SIGKILL'));
  for (const name of readdirSync(tmpdir()))
    if (join(tmpdir(), name).startsWith(`${dir}.`)) rmSync(join(tmpdir(), name), { recursive: true });
  rmSync(store, { recursive: true });
  remove();
});
const begin = async () => {
  const begun = await start(dir);
  running.push(begun.child);
  return begun;
};
const end = async (child: ChildProcess): Promise<void> => {
  child.kill('SIGTERM');
  await ended(child);
};
const names = async (base: string): Promise<string[]> =>
  (await json<SessionListItem[]>(base, '/api/sessions')).map((s) => s.name).sort();

let backup: string;
let sha: string;
let sessionId: string;

it('backs up while it runs, and only what is whole gets the name of a back-up', async () => {
  const { child, base } = await begin();
  sessionId = (await json<{ id: string }>(base, '/api/sessions', { name: 'Kept' })).id;
  await uploadTo(base, sessionId, 'Kick.wav', await wavBytes([tone(60, 3)]));
  sha = await until(
    async () => {
      const [r] = (await json<SessionView>(base, `/api/sessions/${sessionId}`)).recordings;
      return r?.listened && (r.sha256 ?? undefined);
    },
    'the recording',
    60_000,
  );
  const made = act(dir, 'backup', store);
  expect(made).toEqual({ status: 0, said: expect.stringMatching(/1 session, [\d.]+ MB in /) });
  const [only, ...more] = readdirSync(store);
  expect([only, more]).toEqual([expect.stringMatching(/^fernmoss-\d{4}-/), []]);
  backup = join(store, only as string);
  expect(existsSync(join(backup, 'blobs', sha.slice(0, 2), sha))).toBe(true);
  expect(readdirSync(dir).filter((n) => n.startsWith('backup'))).toEqual([]);
  // Nobody restores or upgrades under a running Fernmoss.
  for (const args of [
    ['restore', backup],
    ['upgrade', '--again'],
  ])
    expect(act(dir, ...args)).toEqual({ status: 1, said: expect.stringContaining('already running') });
  await json(base, '/api/sessions', { name: 'Made later' });
  await end(child);
}, 400_000);

it('refuses a back-up that is not as it was written, and leaves the data alone', () => {
  const file = join(backup, 'blobs', sha.slice(0, 2), sha);
  const own = readFileSync(file);
  writeFileSync(file, Buffer.concat([own.subarray(0, -1), Buffer.from([own.at(-1) === 7 ? 8 : 7])]));
  expect(act(dir, 'restore', backup)).toEqual({
    status: 1,
    said: expect.stringMatching(/the back-up is damaged: blobs/),
  });
  rmSync(file);
  expect(act(dir, 'restore', backup)).toEqual({
    status: 1,
    said: expect.stringMatching(/not complete: blobs.*is missing/),
  });
  writeFileSync(file, own);
  expect(act(dir, 'restore', store)).toEqual({ status: 1, said: expect.stringMatching(/is no back-up/) });
  expect(existsSync(join(dir, 'blobs', sha.slice(0, 2), sha))).toBe(true);
}, 120_000);

it('restores what was backed up, keeps what was there, and works on', async () => {
  const made = act(dir, 'restore', backup);
  expect(made).toEqual({ status: 0, said: expect.stringMatching(/1 session of .*before is in /s) });
  const aside = /before is in (\S+)/.exec(made.said)?.[1] as string;
  expect(existsSync(join(aside, 'blobs', sha.slice(0, 2), sha))).toBe(true);
  const { child, base } = await begin();
  expect(await names(base)).toEqual(['Kept']);
  const view = await json<SessionView>(base, `/api/sessions/${sessionId}`);
  expect(view.recordings.map((r) => [r.state, r.sha256])).toEqual([['ready', sha]]);
  await uploadTo(base, sessionId, 'Bass.wav', await wavBytes([tone(80, 3)]));
  await until(
    async () =>
      (await json<SessionView>(base, `/api/sessions/${sessionId}`)).recordings.filter((r) => r.listened)
        .length === 2,
    'another recording',
    60_000,
  );
  await end(child);
  expect(pidOf('worker.mjs', dir)).toBeNull();
}, 400_000);

it('moves to another cluster by a dump, also when it is cut off in between', async () => {
  expect(act(dir, 'upgrade')).toEqual({ status: 0, said: expect.stringContaining('nothing to do') });
  const made = act(dir, 'upgrade', '--again');
  expect(made).toEqual({ status: 0, said: expect.stringMatching(/moved from PostgreSQL \d+ to \d+/) });
  const cluster = join(dir, 'postgres');
  const system = (): string =>
    readFileSync(join(cluster, 'global', 'pg_control'))
      .subarray(0, 8)
      .toString('hex');
  const after = system();
  // As after a kill between the two renames.
  spawnSync('mv', [cluster, `${cluster}.ready`]);
  const { child, base } = await begin();
  expect(system()).toBe(after);
  expect(await names(base)).toEqual(['Kept']);
  expect((await json<SessionView>(base, `/api/sessions/${sessionId}`)).recordings).toHaveLength(2);
  await end(child);
}, 400_000);

it('says how it is used', () => {
  expect(act(dir, '--help')).toEqual({ status: 0, said: expect.stringContaining('npm run backup') });
  expect(act(dir, 'backup')).toEqual({ status: 2, said: expect.stringContaining('npm run restore') });
});
