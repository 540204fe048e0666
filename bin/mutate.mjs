#!/usr/bin/env node
// How sharp the unit tests are: changes the code at many places, one at a time, and counts which changes no test of the same domain notices.
// `npm run mutate -- session time --share 0.1 --seed 1`; without names all domains, without a share everything (many hours).
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureNpmPackages } from './lib/packages.mjs';
import { ROOT } from './lib/say.mjs';

const DOMAINS = ['session', 'time', 'conform', 'delivery', 'audio', 'style'];
/** A share is drawn in windows of so many lines: changes to a whole block are then among them. */
const WINDOW_LINES = 30;

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { share: { type: 'string', default: '1' }, seed: { type: 'string', default: '1' } },
});
const share = Number(values.share);
const domains = positionals.length > 0 ? positionals : DOMAINS;
if (!(share > 0 && share <= 1)) throw new RangeError('--share takes a number over 0 up to 1');

/** Numbers from 0 to below 1 that repeat with the seed (mulberry32). */
function seeded(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const random = seeded(Number(values.seed));

/** What of a domain is changed: all of its files, or windows of lines drawn from them. */
function drawn(domain) {
  const files = readdirSync(join(ROOT, 'src/core', domain), { recursive: true })
    .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
    .map((file) => `src/core/${domain}/${file}`)
    .sort();
  if (share === 1) return files;
  return files.flatMap((file) => {
    const lines = readFileSync(join(ROOT, file), 'utf8').split('\n').length;
    return Array.from({ length: Math.ceil(lines / WINDOW_LINES) }, (_, i) => {
      const from = i * WINDOW_LINES + 1;
      return `${file}:${from}-${Math.min(lines, from + WINDOW_LINES - 1)}`;
    }).filter(() => random() < share);
  });
}

/** Changes a domain and asks the tests beside it; status of the tool. */
function mutate(domain) {
  const config = join(folder, `${domain}.config.json`);
  writeFileSync(
    config,
    JSON.stringify({
      mutate: drawn(domain),
      testRunner: 'jest',
      coverageAnalysis: 'perTest',
      jest: { configFile: 'jest.mutate.config.mjs', enableFindRelatedTests: false },
      ignorePatterns: ['.next', 'dist', 'var', 'public', 'docs', 'test-results', 'demo', '*.tsbuildinfo'],
      // Changes to what runs once on loading ask every test again; they are few and mostly tables.
      ignoreStatic: true,
      concurrency: 2,
      timeoutMS: 20_000,
      dryRunTimeoutMinutes: 20,
      tempDirName: join(folder, 'work'),
      reporters: ['clear-text', 'json'],
      clearTextReporter: { reportTests: false, allowColor: false },
      jsonReporter: { fileName: join(folder, `${domain}.json`) },
    }),
  );
  return spawnSync(join(ROOT, 'node_modules', '.bin', 'stryker'), ['run', config], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, FERNMOSS_MUTATED: domain },
  }).status;
}

ensureNpmPackages();
const folder = join(ROOT, 'var', 'mutate');
mkdirSync(folder, { recursive: true });
process.exit(domains.map(mutate).every((status) => status === 0) ? 0 : 1);
