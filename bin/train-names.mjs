#!/usr/bin/env node
// Learns how sure the reader of names may be, writes the weights, and prints how the labelled deliveries are read with them (about three minutes).
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { buildNode } from './lib/build.mjs';
import { ensureNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/say.mjs';

ensureNpmPackages();
const run = (args) => {
  buildNode();
  return spawnSync('node', [join(ROOT, 'dist', 'bench-names.mjs'), ...args], { cwd: ROOT, stdio: 'inherit' });
};
run(['--write']);
process.exit(run([]).status ?? 1);
