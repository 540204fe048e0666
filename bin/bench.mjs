#!/usr/bin/env node
// Each benchmark prints its figure beside a reference measured in the same run. `npm run bench -- memory` runs one of them.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { buildNode, buildPages } from './lib/build.mjs';
import { ensureDebianPackages, ensureNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/say.mjs';

ensureNpmPackages();
ensureDebianPackages(['postgresql', 'ffmpeg']);
// Only references and sounds of the benchmark; without them those figures are left out.
ensureDebianPackages(
  [
    'chromium',
    'rubberband-cli',
    'fluidsynth',
    'fluid-soundfont-gm',
    'timgm6mb-soundfont',
    'musescore-general-soundfont',
    'python3-mir-eval',
    'aubio-tools',
    'espeak-ng',
    'flite',
  ],
  { optional: true },
);
buildNode();
buildPages();
const only = process.argv[2];
let status = 0;
for (const [name, file] of [
  ['core', 'dist/bench.mjs'],
  ['names', 'dist/bench-names.mjs'],
  ['conform', 'dist/bench-conform.mjs'],
  ['tempo', 'dist/bench-tempo.mjs'],
  ['opaque', 'dist/bench-opaque.mjs'],
  ['tidy', 'dist/bench-tidy.mjs'],
  ['sections', 'dist/bench-sections.mjs'],
  ['takes', 'dist/bench-takes.mjs'],
  ['joins', 'dist/bench-joins.mjs'],
  ['memory', 'bench/memory.mjs'],
  ['player', 'bench/player.mjs'],
  ['page', 'bench/page.mjs'],
  ['sheet', 'bench/sheet.mjs'],
])
  if (only === undefined || only === name)
    status ||=
      spawnSync('node', [join(ROOT, file), ...process.argv.slice(3)], { cwd: ROOT, stdio: 'inherit' })
        .status ?? 1;
process.exit(status);
