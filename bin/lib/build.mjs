// Builds what is stale: worker, compute thread, web entry, CLI, the page's engine files, and the pages.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, say } from './say.mjs';
import { runTool } from './packages.mjs';

function* files(dir) {
  for (const entry of readdirSync(dir, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const path = join(dir, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else if (!/\.test\.tsx?$/.test(entry.name)) yield path;
  }
}

function stamp(parts) {
  const hash = createHash('sha256').update(process.version);
  for (const part of parts) {
    const path = join(ROOT, part);
    for (const file of statSync(path).isDirectory() ? files(path) : [path])
      hash.update(file.slice(ROOT.length)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

const NODE_ENTRIES = {
  'web.mjs': 'src/server/web.ts',
  'worker.mjs': 'src/worker/main.ts',
  'compute.mjs': 'src/engine/compute-thread.ts',
  'fernmoss.mjs': 'src/cli/main.ts',
  'demo.mjs': 'demo/main.ts',
  'bench.mjs': 'bench/main.ts',
  'bench-conform.mjs': 'bench/conform.ts',
  'bench-tempo.mjs': 'bench/tempo/main.ts',
  'bench-tidy.mjs': 'bench/tidy/main.ts',
  'bench-sections.mjs': 'bench/sections/main.ts',
  'bench-takes.mjs': 'bench/takes/main.ts',
  'bench-joins.mjs': 'bench/joins/main.ts',
  'bench-opaque.mjs': 'bench/tempo/opaque.ts',
  'train-heard.mjs': 'bench/heard/main.ts',
  'bench-names.mjs': 'bench/names/main.ts',
  'campaign.mjs': 'tests/campaign/main.ts',
};
const PAGE_ENTRIES = {
  'mixer.worklet.js': 'src/ui/listening/mixer.worklet.ts',
  'feeder.worker.js': 'src/ui/listening/feeder.worker.ts',
  'tidy.worker.js': 'src/ui/features/tidy/tidy.worker.ts',
};

function stale(name, parts) {
  mkdirSync(join(ROOT, 'dist'), { recursive: true });
  const path = join(ROOT, 'dist', `.${name}`);
  const now = stamp(parts);
  return {
    is: !existsSync(path) || readFileSync(path, 'utf8') !== now,
    done: () => writeFileSync(path, now),
  };
}

/** The node side: a second or two. */
export function buildNode() {
  const check = stale('node', [
    'src',
    'demo',
    'bench',
    'tests/campaign',
    'tests/support',
    'package.json',
    'tsconfig.json',
  ]);
  if (!check.is) return;
  say('building the workers');
  for (const [out, entry] of Object.entries(NODE_ENTRIES))
    runTool('esbuild', [
      entry,
      '--bundle',
      '--platform=node',
      '--target=node20',
      '--format=esm',
      '--packages=external',
      '--log-level=warning',
      `--outfile=dist/${out}`,
    ]);
  check.done();
}

/** Everything the page needs; a minute when the sources changed. */
export function buildPages() {
  const check = stale('pages', ['src', 'package.json', 'tsconfig.json', 'next.config.ts']);
  if (!check.is && existsSync(join(ROOT, '.next', 'BUILD_ID'))) return;
  say('building the pages (about a minute)');
  for (const [out, entry] of Object.entries(PAGE_ENTRIES))
    runTool('esbuild', [
      entry,
      '--bundle',
      '--format=esm',
      '--target=es2022',
      '--minify',
      '--log-level=warning',
      `--outfile=public/engine/${out}`,
    ]);
  runTool('next', ['build'], {
    stdio: ['ignore', process.env.FERNMOSS_LOUD ? 'inherit' : 'ignore', 'inherit'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  check.done();
}
