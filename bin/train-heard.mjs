#!/usr/bin/env node
// Trains what is heard, tests it on a sound font never used in training, and writes the model and its confusion table (about ten minutes).
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { buildNode } from './lib/build.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/say.mjs';

ensureNpmPackages();
ensureDebianPackages([
  'fluidsynth',
  'fluid-soundfont-gm',
  'timgm6mb-soundfont',
  'csound-soundfont',
  'avldrums.lv2-soundfont',
  'musescore-general-soundfont',
  'espeak-ng',
  'flite',
]);
buildNode();
process.exit(
  spawnSync('node', [join(ROOT, 'dist', 'train-heard.mjs'), '--write'], { cwd: ROOT, stdio: 'inherit' })
    .status ?? 1,
);
