// A private PostgreSQL cluster on a free loopback port. Works as root (through the postgres user) and as anyone. Dependency-free.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { ensureDatabase, urlOf } from './database.mjs';
import { postgresVersions } from './packages.mjs';
import { clusterDir, finishReplacing, initialise, run, secret, serverOf, versionOf } from './postgres.mjs';
import { say } from './say.mjs';

/** The first free loopback port from `from` on; 0 = any. */
export function freePort(from = 0) {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.once('error', (error) =>
      from > 0 && error.code === 'EADDRINUSE' ? freePort(from + 1).then(resolve, reject) : reject(error),
    );
    server.listen(from, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** Starts the server again, on the same port, when it is gone (killed, out of memory). */
function keepUp(dir, start) {
  return setInterval(() => {
    if (serverOf(dir) !== null) return;
    say('the database stopped; starting it again');
    start();
  }, 500);
}

/** A log a weekday, each written over after a week. */
const LOGGING =
  '-c logging_collector=on -c log_directory=log -c log_filename=server-%a.log -c log_truncate_on_rotation=on -c log_rotation_age=1d -c log_rotation_size=0';

/** How to reach a cluster that runs on a port, with the secrets of its data folder. */
export const serverAt = (dataDir, port, version) => ({
  port,
  version,
  administratorSecret: secret(dataDir, 'database-password'),
  applicationSecret: secret(dataDir, 'application-password'),
});

/**
 * Starts (and first makes) the cluster of a data folder; returns how to reach it and how to stop it.
 * `dir`: another place than its usual one; `dumpFile`: what a database that is made begins with.
 */
export async function startCluster(dataDir, { dir = clusterDir(dataDir), dumpFile = null } = {}) {
  finishReplacing(dir);
  if (versionOf(dir) === null) initialise(dir, secret(dataDir, 'database-password'));
  const version = versionOf(dir);
  const control = (args) => run('pg_ctl', ['-D', dir, ...args], version);
  // One left running by a killed start: stop it in order, then start afresh.
  if (control(['status']).status === 0) control(['-m', 'fast', '-w', '-t', '20', 'stop']);
  if (version !== postgresVersions()[0])
    say(`the data is PostgreSQL ${version}’s; “npm run upgrade” moves it to ${postgresVersions()[0]}`);
  const log = join(dir, 'server.log');
  let failure = '';
  for (let attempt = 0; attempt < 4; attempt++) {
    const port = await freePort();
    const options = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c max_connections=60 ${LOGGING}`;
    const start = () => control(['-l', log, '-w', '-t', '30', '-o', options, 'start']);
    const started = start();
    if (started.status === 0) {
      const server = serverAt(dataDir, port, version);
      try {
        ensureDatabase(server, dumpFile);
      } catch (error) {
        // Nobody else would stop it.
        control(['-m', 'fast', '-w', '-t', '20', 'stop']);
        throw error;
      }
      const watch = keepUp(dir, () => start().status === 0);
      return {
        server,
        url: urlOf(server),
        dir,
        pid: () => serverOf(dir)?.pid ?? null,
        stop() {
          clearInterval(watch);
          return control(['-m', 'fast', '-w', '-t', '20', 'stop']);
        },
      };
    }
    failure = started.stdout + started.stderr;
    // After kill -9 the old server's lock can outlive it by a moment.
    await new Promise((resolve) => setTimeout(resolve, 1500));
  }
  throw new Error(
    `PostgreSQL did not start:\n${failure}\n${spawnSync('tail', ['-n', '5', log], { encoding: 'utf8' }).stdout}`,
  );
}

/** Removes a cluster made for a test. */
export function removeCluster(cluster) {
  cluster.stop();
  rmSync(cluster.dir, { recursive: true, force: true });
}
