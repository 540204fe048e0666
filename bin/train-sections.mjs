#!/usr/bin/env node
// Learns where sections begin, which are alike and what they are from made songs, and writes the model (an hour the first time, ten minutes after that; with --quick it is not judged first).
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { buildNode } from './lib/build.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/say.mjs';

ensureNpmPackages();
ensureDebianPackages(['fluidsynth', 'fluid-soundfont-gm', 'timgm6mb-soundfont']);
buildNode();
process.exit(
  spawnSync('node', [join(ROOT, 'dist', 'bench-sections.mjs'), '--learn', ...process.argv.slice(2)], {
    cwd: ROOT,
    stdio: 'inherit',
  }).status ?? 1,
);
