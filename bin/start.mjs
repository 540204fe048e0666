#!/usr/bin/env node
// From a fresh clone to a page: packages, database, build, processes. One line a step.
import { mkdirSync } from 'node:fs';
import { sweepBackups } from './lib/backup.mjs';
import { buildNode, buildPages } from './lib/build.mjs';
import { freePort, startCluster } from './lib/cluster.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { hold, release } from './lib/lock.mjs';
import { finishReplacing } from './lib/postgres.mjs';
import { keepPrivate } from './lib/private.mjs';
import { dataFolder, giveUp, say } from './lib/say.mjs';
import { serve } from './lib/serve.mjs';

const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19))
  giveUp(`needs Node 20.19 or newer; this is ${process.version}`);

const dataDir = dataFolder();
finishReplacing(dataDir);
mkdirSync(dataDir, { recursive: true });
keepPrivate(dataDir);

try {
  hold(dataDir);
} catch (error) {
  giveUp(error.message);
}
sweepBackups(dataDir);

let cluster;
let served;
let stopping = false;
async function stop(status) {
  if (stopping) return;
  stopping = true;
  say('stopping');
  await served?.stop();
  cluster?.stop();
  release(dataDir);
  process.exit(status);
}
process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));

try {
  ensureNpmPackages();
  ensureDebianPackages(['postgresql', 'ffmpeg']);
  const demo =
    process.env.FERNMOSS_DEMO !== 'off' &&
    ensureDebianPackages(['fluidsynth', 'fluid-soundfont-gm'], { optional: true });
  buildNode();
  buildPages();
  say('starting the database');
  cluster = await startCluster(dataDir);
  const port = await freePort(Number(process.env.PORT ?? 4610));
  served = await serve({ databaseUrl: cluster.url, dataDir, port, demo });
  say(`open http://127.0.0.1:${port}`);
} catch (error) {
  console.error(`fernmoss · ${error.message}`);
  await stop(1);
}
