#!/usr/bin/env node
// Learns what the letters of names say and how sure their reader may be, writes the weights, and prints how the labelled deliveries are read with them (about fifteen minutes; with --letters the first part alone).
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
run(['--write', ...process.argv.slice(2)]);
process.exit(run([]).status ?? 1);
