import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PARTED_MAP, writePartedSong } from '../support/parted-song';
import { fernmoss, fernmossJson } from '../support/programs';
import { tone, writeWav } from '../support/recordings';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-cli-sections-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const song = join(folder, 'song');
const map = join(folder, 'map.json');

interface Printed {
  readonly name: string;
  readonly kind: string;
  readonly like: string;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly fromBar: number | null;
  readonly toBar: number | null;
  readonly confidence: number;
}

beforeAll(async () => {
  await writePartedSong(song);
  writeFileSync(map, JSON.stringify(PARTED_MAP));
}, 120_000);

it('prints the parts of a song on the bar lines of the map it is given, and which are alike', () => {
  const said = fernmossJson<Printed[]>(['sections', song, '--map', map]);
  expect(said.map((s) => [s.fromBar, s.toBar, s.fromSeconds, s.toSeconds])).toEqual([
    [1, 5, 0, 6],
    [5, 13, 6, 18],
    [13, 21, 18, 30],
    [21, 29, 30, 42],
    // What rings on after the last bar line is the last section's.
    [29, 38, 42, 55.5],
  ]);
  expect(said.map((s) => s.like).slice(1)).toEqual(['B', 'C', 'B', 'C']);
  expect(said[0]?.kind).toBe('intro');
  expect(said.every((s) => s.confidence >= 0.5 && s.confidence <= 1)).toBe(true);
}, 60_000);

it('finds the map itself where none is given, and ends where the song ends', () => {
  const said = fernmossJson<Printed[]>(['sections', song]);
  expect(said.length).toBeGreaterThan(2);
  said.slice(1).forEach((s, i) => expect(s.fromSeconds).toBe(said[i]?.toSeconds));
  expect(said.some((s) => Math.abs(s.fromSeconds - 18) < 0.1)).toBe(true);
}, 60_000);

it('tells sections in time where there is no tempo, and nothing where nothing sounds', async () => {
  const still = await writeWav(join(folder, 'Pad.wav'), [tone(220, 20, 0.2)]);
  const silent = await writeWav(join(folder, 'Silent.wav'), [new Float32Array(48_000)]);
  const one = fernmossJson<Printed[]>(['sections', still]);
  expect(one.map((s) => [s.fromBar, s.fromSeconds])).toEqual([[null, 0]]);
  expect(fernmoss(['sections', silent, '--json']).status).toBe(1);
}, 60_000);

it('says what is wrong with a call', () => {
  expect(fernmoss(['sections', song, '--map', join(folder, 'none.json')]).status).toBe(2);
  expect(fernmoss(['sections', song, '--map', join(song, 'Kick.wav')]).status).toBe(2);
  expect(fernmoss(['sections']).status).toBe(2);
});
