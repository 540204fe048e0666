// Beats of a second general-purpose tracker (npm essentia.js, RhythmExtractor2013) on a mono WAV of 24 bit, one a line.
// It is fetched for the benchmark alone, into the folder given: `node second-tracker.mjs FOLDER FILE`.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';

const [folder, path] = process.argv.slice(2);
const { Essentia, EssentiaWASM } = createRequire(join(folder, 'x.cjs'))('essentia.js');
const bytes = readFileSync(path);
const rate = bytes.readUInt32LE(bytes.indexOf('fmt ') + 12);
const data = bytes.indexOf('data') + 8;
const samples = new Float32Array(Math.floor((bytes.length - data) / 3));
for (let i = 0; i < samples.length; i++) samples[i] = bytes.readIntLE(data + 3 * i, 3) / 0x800000;
const tracker = new Essentia(EssentiaWASM);
const { ticks } = tracker.RhythmExtractor2013(tracker.arrayToVector(samples));
// It takes every file for one of 44.1 kHz.
for (const t of tracker.vectorToArray(ticks)) console.log((t * 44_100) / rate);
