#!/usr/bin/env node
import { buildNode, buildPages } from './lib/build.mjs';
import { ensureNpmPackages } from './lib/packages.mjs';

ensureNpmPackages();
buildNode();
buildPages();
