#!/usr/bin/env node
// Everything that must hold: types, lint, the dependency rule, unit, integration and end-to-end tests. Leaves nothing running.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { buildNode, buildPages } from './lib/build.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { ROOT, say } from './lib/say.mjs';
import { startTestServices } from './lib/test-services.mjs';

ensureNpmPackages();
ensureDebianPackages([
  'postgresql',
  'ffmpeg',
  'chromium',
  'libxml2-utils',
  'sndfile-programs',
  'python3-mido',
  'python3-numpy',
  'python3-soundfile',
  'mediainfo',
  'libimage-exiftool-perl',
  'flac',
  'fluidsynth',
  'musescore-general-soundfont',
  'avldrums.lv2-soundfont',
  'espeak-ng',
  'flite',
]);

const failed = [];
/** Runs a tool to its end; this process stays free meanwhile, to start services again that a test has killed. */
async function step(name, tool, args, env = {}) {
  say(name);
  const begin = Date.now();
  const child = spawn(join(ROOT, 'node_modules', '.bin', tool), args, {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  const status = await new Promise((resolve) => {
    child.once('error', () => resolve(1));
    child.once('exit', resolve);
  });
  say(`${name}: ${status === 0 ? 'good' : 'FAILED'} after ${((Date.now() - begin) / 1000).toFixed(0)} s`);
  if (status !== 0) failed.push(name);
}

buildNode();
// The page build also writes the route types that the type check reads.
buildPages();
// Two at a time: none of them needs more than one core.
await Promise.all([
  (async () => {
    await step('types', 'tsc', ['--noEmit']);
    await step('types of core, without page or server', 'tsc', ['--noEmit', '-p', 'tsconfig.core.json']);
    await step('dependency rule', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'src']);
  })(),
  (async () => {
    await step('formatting', 'prettier', ['--check', '--log-level', 'warn', '.']);
    await step('lint', 'eslint', ['.', '--max-warnings', '0']);
  })(),
]);
await step('unit tests', 'jest', ['--selectProjects', 'unit', 'ui', '--maxWorkers', '2']);

/** One start at a time: two that look for a free port at once find the same. */
let starting = Promise.resolve();
const started = () => (starting = starting.catch(() => undefined).then(startTestServices));

/** Runs a tool on services of its own. */
async function onServices(name, tool, args) {
  const services = await started();
  try {
    await step(name, tool, args, services.env);
  } finally {
    await services.stop();
  }
}
const integration = (part) =>
  onServices(`integration tests, part ${part} of 3`, 'jest', [
    ...['--selectProjects', 'integration', '--runInBand', '--forceExit'],
    `--shard=${part}/3`,
  ]);

// Two at a time, side by side: much of all is waiting. Each comes to its end, also where the other cannot begin.
const ended = await Promise.allSettled([
  onServices('end-to-end tests', 'playwright', ['test']).then(() => integration(3)),
  integration(1).then(() => integration(2)),
]);
for (const { reason } of ended.filter((e) => e.status === 'rejected')) {
  console.error(reason);
  failed.push('services');
}
say(failed.length === 0 ? 'all good' : `failed: ${failed.join(', ')}`);
process.exit(failed.length === 0 ? 0 : 1);
