#!/usr/bin/env node
// From a fresh clone to a page: packages, database, build, processes. One line a step.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { buildNode, buildPages } from './lib/build.mjs';
import { freePort, startCluster } from './lib/cluster.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { keepPrivate } from './lib/private.mjs';
import { giveUp, ROOT, say } from './lib/say.mjs';
import { serve } from './lib/serve.mjs';

const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19))
  giveUp(`needs Node 20.19 or newer; this is ${process.version}`);

const dataDir = resolve(process.env.FERNMOSS_DATA ?? join(ROOT, 'var', 'data'));
mkdirSync(dataDir, { recursive: true });
keepPrivate(dataDir);

// Two starts on one data folder would fight over the database.
const lock = join(dataDir, 'start.pid');
if (existsSync(lock)) {
  const other = Number(readFileSync(lock, 'utf8'));
  let alive = false;
  try {
    process.kill(other, 0);
    alive = other !== process.pid && readFileSync(`/proc/${other}/cmdline`, 'utf8').includes('start.mjs');
  } catch {
    alive = false;
  }
  if (alive)
    giveUp(
      `already running on ${dataDir} (process ${other}); stop it first, or set FERNMOSS_DATA to another folder`,
    );
}
writeFileSync(lock, String(process.pid));

let cluster;
let served;
let stopping = false;
async function stop(status) {
  if (stopping) return;
  stopping = true;
  say('stopping');
  await served?.stop();
  cluster?.stop();
  rmSync(lock, { force: true });
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
