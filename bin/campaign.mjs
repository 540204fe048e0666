#!/usr/bin/env node
// Kills every part of the server at random moments of its work and looks whether anything was lost: `npm run campaign -- --rounds 60 --seed 1`.
// With `--editors 10` instead: ten minutes of two people editing while packages are built. `--workers 2`: two at work at once.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { buildNode, buildPages } from './lib/build.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/say.mjs';
import { startTestServices } from './lib/test-services.mjs';

ensureNpmPackages();
ensureDebianPackages(['postgresql', 'ffmpeg']);
buildNode();
buildPages();
const given = process.argv.slice(2);
const at = given.indexOf('--workers');
const [, workers = '1'] = at < 0 ? [] : given.splice(at, 2);
const services = await startTestServices({ workers: Number(workers) });
// This process stays free meanwhile, to start again what is killed.
const child = spawn('node', [join(ROOT, 'dist', 'campaign.mjs'), ...given], {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, ...services.env },
});
const status = await new Promise((resolve) => child.once('exit', resolve));
await services.stop();
process.exit(status ?? 1);
