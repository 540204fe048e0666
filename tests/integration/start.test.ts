import { spawnSync, type ChildProcess } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, rmSync, statfsSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SessionListItem, SessionView } from '@/contracts';
import type { Change } from '@/core/session';
import { createSongMap, songMapToFile } from '@/core/time';
import { tone, wavBytes } from '../support/recordings';
import { ended, folderFor, json, start } from '../support/start';
import { ROOT } from '../support/programs';
import { editsFor, pidOf, until } from '../support/server';

it('a data folder is its owner’s alone; data of a PostgreSQL that is gone is left as it is, and said how to reach', async () => {
  const { dir, remove } = folderFor();
  const version = join(dir, 'postgres', 'PG_VERSION');
  try {
    // As a start leaves them that is killed while it writes them.
    for (const name of ['database-password', 'application-password', 'database-place'])
      writeFileSync(join(dir, name), '', { mode: 0o600 });
    const first = await start(dir);
    const { id } = await json<{ id: string }>(first.base, '/api/sessions', { name: 'Of an older one' });
    const mode = (path: string): string => (statSync(path).mode & 0o777).toString(8);
    // The database is run by another user when root starts it: the folder itself can be passed, not listed.
    expect(mode(dir)).toBe(process.getuid?.() === 0 ? '711' : '700');
    for (const name of ['blobs', 'packages', 'uploads', 'demo', 'postgres'])
      expect([name, mode(join(dir, name))]).toEqual([name, '700']);
    expect(mode(join(dir, 'database-password'))).toBe('600');
    // Rotated: a file a weekday.
    expect(readdirSync(join(dir, 'postgres', 'log'))).toEqual([
      expect.stringMatching(/^server-(Mon|Tue|Wed|Thu|Fri|Sat|Sun)\.log$/),
    ]);
    first.child.kill('SIGTERM');
    await ended(first.child);
    const control = spawnSync(
      'sh',
      ['-c', `/usr/lib/postgresql/*/bin/pg_controldata '${join(dir, 'postgres')}'`],
      { encoding: 'utf8' },
    ).stdout;
    expect(control).toMatch(/Data page checksum version:\s+1/);

    const own = readFileSync(version, 'utf8');
    writeFileSync(version, '9\n');
    const refused = spawnSync('node', [join(ROOT, 'bin/start.mjs')], {
      env: { ...process.env, FERNMOSS_DATA: dir, FERNMOSS_DEMO: 'off', PORT: '4810' },
      encoding: 'utf8',
    });
    expect([refused.status, refused.stderr]).toEqual([
      1,
      expect.stringMatching(/made by PostgreSQL 9, which is not installed.*apt-get install postgresql-9/s),
    ]);
    writeFileSync(version, own);
    const again = await start(dir);
    expect((await json<SessionListItem[]>(again.base, '/api/sessions')).map((s) => s.id)).toEqual([id]);
    again.child.kill('SIGTERM');
    await ended(again.child);
  } finally {
    remove();
  }
}, 400_000);

it('starts, stops in order, starts again within 10 s, and recovers from kill -9 of any part', async () => {
  const { dir, remove } = folderFor();
  try {
    const first = await start(dir);
    const { id } = await json<{ id: string }>(first.base, '/api/sessions', { name: 'Kept' });
    first.child.kill('SIGTERM');
    expect(await ended(first.child)).toBe(0);
    expect([
      pidOf('web.mjs', dir),
      pidOf('worker.mjs', dir),
      existsSync(join(dir, 'postgres', 'postmaster.pid')),
      existsSync(join(dir, 'start.pid')),
    ]).toEqual([null, null, false, false]);

    const second = await start(dir);
    expect((await json<SessionListItem[]>(second.base, '/api/sessions')).map((s) => s.id)).toEqual([id]);
    // A second start on the same folder says so and does no harm.
    const rival = spawnSync('node', [join(ROOT, 'bin/start.mjs')], {
      env: { ...process.env, FERNMOSS_DATA: dir, FERNMOSS_DEMO: 'off' },
      encoding: 'utf8',
    });
    expect([rival.status, rival.stderr]).toEqual([1, expect.stringContaining('already running')]);

    // Without its parent nothing stays behind but the database, which the next start takes over.
    second.child.kill('SIGKILL');
    await ended(second.child);
    await until(
      async () => pidOf('web.mjs', dir) === null && pidOf('worker.mjs', dir) === null,
      'orphans to end',
      15_000,
    );
    const third = await start(dir);
    expect((await json<SessionListItem[]>(third.base, '/api/sessions')).map((s) => s.id)).toEqual([id]);

    // The database killed under it is started again, on its own; nobody has to do anything.
    const serverPid = (): string => {
      try {
        return readFileSync(join(dir, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0] ?? '';
      } catch {
        return '';
      }
    };
    const before = serverPid();
    process.kill(Number(before), 'SIGKILL');
    await until(
      async () => serverPid() !== before && serverPid() !== '',
      'the database to be started again',
      30_000,
    );
    await until(
      async () => (await fetch(`${third.base}/api/sessions`)).status === 200,
      'the page to work again',
      30_000,
    );
    expect((await json<SessionListItem[]>(third.base, '/api/sessions')).map((s) => s.id)).toEqual([id]);
    third.child.kill('SIGTERM');
    await ended(third.child);
    const fourth = await start(dir);
    expect((await json<SessionListItem[]>(fourth.base, '/api/sessions')).map((s) => s.id)).toEqual([id]);
    fourth.child.kill('SIGINT');
    expect(await ended(fourth.child)).toBe(0);
    console.log(
      `starts took ${[first, second, third, fourth].map((s) => s.seconds.toFixed(1)).join(', ')} s`,
    );
  } finally {
    remove();
  }
}, 400_000);

const canMount =
  process.getuid?.() === 0 &&
  ((): boolean => {
    try {
      folderFor('1m').remove();
      return true;
    } catch {
      return false;
    }
  })();
(canMount ? it : it.skip)(
  'a full disk: refused in words, all else stays, works again when there is room',
  async () => {
    const { dir, remove } = folderFor('400m');
    const begun: ChildProcess[] = [];
    const bytes = await wavBytes([tone(440, 200)]); // 29 MB
    try {
      const { child, base } = await start(dir);
      begun.push(child);
      const { id } = await json<{ id: string }>(base, '/api/sessions', { name: 'Full' });
      const post = (length: number): Promise<Response> =>
        fetch(`${base}/api/uploads`, {
          method: 'POST',
          headers: {
            'tus-resumable': '1.0.0',
            'upload-length': String(length),
            'upload-metadata': `sessionId ${Buffer.from(id).toString('base64')},name ${Buffer.from('a.wav').toString('base64')}`,
          },
        });
      const patch = (address: string, bytes: Uint8Array): Promise<Response> =>
        fetch(new URL(address, base), {
          method: 'PATCH',
          headers: {
            'tus-resumable': '1.0.0',
            'upload-offset': '0',
            'content-type': 'application/offset+octet-stream',
          },
          body: bytes as BodyInit,
        });
      const view = (): Promise<SessionView> => json<SessionView>(base, `/api/sessions/${id}`);

      // What cannot fit is refused before a byte is sent.
      const tooLarge = await post(10 ** 9);
      expect([tooLarge.status, await tooLarge.text()]).toEqual([
        507,
        expect.stringContaining('store.disk_full'),
      ]);

      // The disk fills while a file is on its way.
      const address = (await post(bytes.length)).headers.get('location') ?? '';
      const { bavail, bsize } = statfsSync(dir);
      const hog = join(dir, 'hog');
      writeFileSync(hog, Buffer.alloc(bavail * bsize - 12 * 2 ** 20));
      const broken = await patch(address, bytes);
      expect([broken.status, await broken.text()]).toEqual([507, expect.stringContaining('store.disk_full')]);
      expect((await view()).recordings).toEqual([]);
      expect(await json<SessionListItem[]>(base, '/api/sessions')).toHaveLength(1);

      // Room again: the same file goes through.
      rmSync(hog);
      const again = (await post(bytes.length)).headers.get('location') ?? '';
      expect((await patch(again, bytes)).status).toBe(204);
      const ready = await until(
        async () => {
          const v = await view();
          return v.recordings[0]?.state === 'ready' && v.recordings[0];
        },
        'the recording',
        60_000,
      );
      expect(ready.lengthFrames).toBe(200 * 48_000);
      await until(async () => (await view()).recordings[0]?.listened, 'the listening pass', 60_000);

      // Conforming and packages that would not fit are refused before they begin, with what is needed and what is free.
      const fill = (leaveBytes: number): void => {
        const now = statfsSync(dir);
        writeFileSync(hog, Buffer.alloc(Math.max(0, now.bavail * now.bsize - leaveBytes)));
      };
      const edit = async (label: string, changes: readonly Change[]): Promise<unknown> => {
        const { revision: baseRevision, session } = await view();
        return json(base, `/api/sessions/${id}/edits`, {
          baseRevision,
          label,
          edits: editsFor(session, changes),
        });
      };
      const pulses = Array.from({ length: 300 }, (_, i) => 1 + 0.6 * i);
      await edit('A map', [
        {
          kind: 'map.replace',
          map: songMapToFile(
            createSongMap(
              pulses.map((seconds, quarters) => ({ quarters, seconds })),
              [{ bar: 1, numerator: 4, denominator: 4 }],
            ),
          ),
          facts: {
            steady: true,
            bpm: 100,
            foundBy: null,
            pulses: pulses.map((seconds) => ({ seconds, confidence: 1 })),
          },
        },
      ]);
      const conform: Change = { kind: 'conform.set', conform: { bpm: 102, treatments: {}, heard: 'played' } };
      fill(90 * 2 ** 20);
      const before = await view();
      for (const refused of [
        await edit('Conform', [conform]),
        await json(base, `/api/sessions/${id}/handovers`, {}),
      ])
        expect(refused).toMatchObject({ fault: { code: 'store.no_room' } });
      expect(await view()).toMatchObject({
        revision: before.revision,
        session: { conform: null },
        handovers: [],
      });
      rmSync(hog);

      // The disk fills while a conforming is under way: its job says so, nothing half is left, all else is as it was.
      const worker = pidOf('worker.mjs', dir) as number;
      // Stopped in the middle of a statement the worker holds the session: it goes on a moment then.
      const withWorkerStopped = async (): Promise<unknown> => {
        process.kill(worker, 'SIGSTOP');
        const answer = await edit('Conform', [conform]);
        if ((answer as { fault?: { code: string } }).fault?.code !== 'store.too_slow') return answer;
        process.kill(worker, 'SIGCONT');
        await new Promise((done) => setTimeout(done, 500));
        return withWorkerStopped();
      };
      expect(await withWorkerStopped()).toMatchObject({ revision: before.revision + 1 });
      fill(8 * 2 ** 20);
      process.kill(worker, 'SIGCONT');
      const failed = await until(
        async () => {
          const v = await view();
          return v.jobs.find((j) => j.kind === 'conform.render' && j.state === 'failed') && v;
        },
        'the job to fail',
        60_000,
      );
      expect(failed.jobs.find((j) => j.state === 'failed')?.fault).toEqual({ code: 'store.disk_full' });
      expect([
        failed.conform?.ready,
        failed.recordings[0]?.state,
        readdirSync(join(dir, 'temporary'), { recursive: true, withFileTypes: true }).filter((e) =>
          e.isFile(),
        ),
      ]).toEqual([[], 'ready', []]);
      rmSync(hog);
      await json(base, `/api/sessions/${id}/conform`, {});
      await until(async () => (await view()).conform?.ready.length === 1, 'the conformed recording', 60_000);
      child.kill('SIGTERM');
      await ended(child);
    } finally {
      begun.forEach((c) => c.kill('SIGKILL'));
      await new Promise((resolve) => setTimeout(resolve, 3000));
      remove();
    }
  },
);
