// Starts the web and worker processes over a cluster and keeps them up. Dependency-free.
import { fork } from 'node:child_process';
import { join } from 'node:path';
import { ROOT, say } from './say.mjs';

const RESTARTS_A_MINUTE = 8;
const PAUSE_MS = 20_000;

/** Starts one process and resolves when it says it is ready; restarts it if it dies. */
function keepUp(name, file, env) {
  let child;
  let stopping = false;
  let restarts = [];
  const ready = new Promise((resolve, reject) => {
    const begin = () => {
      child = fork(join(ROOT, 'dist', file), [], {
        cwd: ROOT,
        env,
        stdio: ['ignore', env.FERNMOSS_LOUD ? 'inherit' : 'ignore', 'inherit', 'ipc'],
      });
      child.once('message', resolve);
      child.once('exit', (code, signal) => {
        if (stopping) return;
        restarts = restarts.filter((t) => Date.now() - t < 60_000);
        const tooOften = restarts.length >= RESTARTS_A_MINUTE;
        // Only the first start can give up; what runs is never left dead.
        if (tooOften) reject(new Error(`${name} keeps stopping (${signal ?? code})`));
        restarts.push(Date.now());
        say(
          `${name} stopped (${signal ?? code}); starting it again${tooOften ? ` in ${PAUSE_MS / 1000} s, as it keeps stopping` : ''}`,
        );
        setTimeout(begin, tooOften ? PAUSE_MS : 500);
      });
    };
    begin();
  });
  return {
    name,
    ready,
    pid: () => child.pid,
    stop: () =>
      new Promise((resolve) => {
        stopping = true;
        if (child.exitCode !== null || child.signalCode !== null) return resolve();
        const late = setTimeout(() => child.kill('SIGKILL'), 8000);
        child.once('exit', () => {
          clearTimeout(late);
          resolve();
        });
        child.kill('SIGTERM');
      }),
  };
}

/** Web and workers on a database, a data folder and a port. */
export async function serve({ databaseUrl, dataDir, port, demo, workers = 1, env = {} }) {
  const all = {
    ...process.env,
    NODE_ENV: 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    FERNMOSS_DATABASE_URL: databaseUrl,
    FERNMOSS_DATA: dataDir,
    FERNMOSS_ROOT: ROOT,
    FERNMOSS_THREAD: join(ROOT, 'dist', 'compute.mjs'),
    FERNMOSS_DEMO: demo ? 'on' : 'off',
    PORT: String(port),
    ...env,
  };
  const worker = keepUp('worker', 'worker.mjs', all);
  await worker.ready; // it brings the schema up to date before the page asks
  const more = Array.from({ length: workers - 1 }, (_, i) => keepUp(`worker ${i + 2}`, 'worker.mjs', all));
  await Promise.all(more.map((w) => w.ready));
  const web = keepUp('web', 'web.mjs', all);
  await web.ready;
  return {
    pids: () => ({ web: web.pid(), worker: worker.pid() }),
    async stop() {
      await web.stop();
      await Promise.all([worker, ...more].map((w) => w.stop()));
    },
  };
}
