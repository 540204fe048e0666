// The services that integration and end-to-end tests run against: a cluster, a data folder, web and worker. Dependency-free.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, removeCluster, startCluster } from './cluster.mjs';
import { urlOf } from './database.mjs';
import { ROOT } from './say.mjs';
import { serve } from './serve.mjs';

/** Starts everything on a new data folder, with so many workers; `env` is what tests need to find it. */
export async function startTestServices({ workers = 1 } = {}) {
  const dataDir = mkdtempSync(join(tmpdir(), 'fernmoss-test-'));
  // The folder packages may be written to.
  const folders = mkdtempSync(join(tmpdir(), 'fernmoss-folders-'));
  chmodSync(dataDir, 0o755);
  const cluster = await startCluster(dataDir);
  const port = await freePort(4710);
  const served = await serve({
    databaseUrl: cluster.url,
    dataDir,
    port,
    demo: false,
    workers,
    env: { FERNMOSS_FOLDERS: folders },
  });
  return {
    /** Process ids of web and worker. */
    pids: () => ({ ...served.pids(), database: cluster.pid() }),
    env: {
      FERNMOSS_DATABASE_URL: cluster.url,
      FERNMOSS_ADMINISTRATOR_URL: urlOf(cluster.server, { database: 'postgres', isAdministrator: true }),
      FERNMOSS_DATA: dataDir,
      FERNMOSS_THREAD: join(ROOT, 'dist', 'compute.mjs'),
      FERNMOSS_DEMO: 'off',
      FERNMOSS_FOLDERS: folders,
      FERNMOSS_CLUSTER: cluster.dir,
      FERNMOSS_URL: `http://127.0.0.1:${port}`,
    },
    async stop() {
      await served.stop();
      removeCluster(cluster);
      rmSync(dataDir, { recursive: true, force: true });
      rmSync(folders, { recursive: true, force: true });
    },
  };
}
