#!/usr/bin/env node
// The command line: the same core as the page, with no server and no database.
import { buildNode } from './lib/build.mjs';
import { ensureNpmPackages } from './lib/packages.mjs';

// Progress goes to standard error: standard output is for results.
const { log } = console;
console.log = (...args) => console.error(...args);
ensureNpmPackages();
buildNode();
console.log = log;
await import('../dist/fernmoss.mjs');
