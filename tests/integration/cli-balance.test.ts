import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fernmoss, fernmossJson } from '../support/programs';
import { make, type Voice } from '../support/labelled';
import { writeWav } from '../support/recordings';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-cli-balance-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const song = join(folder, 'song');

interface Balanced {
  readonly mix: string | null;
  readonly tracks: readonly {
    readonly file: string;
    readonly gainDb: number;
    readonly pan: number;
    readonly roughMix: { readonly gainDb: number; readonly pan: number; readonly share: number } | null;
  }[];
  readonly explained: { readonly share: number } | null;
  readonly alignment: { readonly laterSamples: number; readonly isInverted: boolean } | null;
  readonly missing: readonly unknown[];
  readonly mixBusPeakDbfs: number | null;
  readonly reason: string | null;
}

const PARTS: readonly (readonly [string, Voice, number, number])[] = [
  ['Kick.wav', 'drums', -2, 0],
  ['Shaker.wav', 'hats', -9, 0.5],
  ['Bass.wav', 'bass', -4, 0],
  ['Guitar.wav', 'plucked', -7, -0.6],
  ['Lead Vox.wav', 'voice', 0, 0],
];
const LATE = 300;

beforeAll(async () => {
  mkdirSync(song);
  const sounds = PARTS.map(([, voice], k) => make(voice, 70 + k, 16, 0.4));
  for (const [k, [name]] of PARTS.entries())
    await writeWav(join(song, name), [sounds[k] as Float32Array], { bitDepth: 32 });
  const length = (sounds[0] as Float32Array).length;
  // Late, and with its polarity turned over: as a mix comes from elsewhere.
  const side = (law: (angle: number) => number): Float32Array =>
    Float32Array.from({ length: length + LATE }, (_, i) =>
      PARTS.reduce(
        (sum, [, , db, pan], k) =>
          sum -
          0.4 *
            10 ** (db / 20) *
            law(((pan + 1) * Math.PI) / 4) *
            ((sounds[k] as Float32Array)[i - LATE] ?? 0),
        0,
      ),
    );
  await writeWav(join(song, 'harbour evening 3.wav'), [side(Math.cos), side(Math.sin)], { bitDepth: 32 });
}, 60_000);

it('finds the mix among the files whatever its name, late and inverted, and reads its levels and places', () => {
  const said = fernmossJson<Balanced>(['balance', song]);
  expect(said.mix).toMatch(/harbour evening 3\.wav$/);
  expect(said.alignment?.isInverted).toBe(true);
  expect(Math.abs((said.alignment?.laterSamples as number) - LATE)).toBeLessThan(0.5);
  expect(said.explained?.share).toBeGreaterThan(0.98);
  expect(said.missing).toEqual([]);
  const off = PARTS.map(([name, , db]) => {
    const track = said.tracks.find((t) => t.file.endsWith(name));
    return (track?.roughMix?.gainDb ?? NaN) - db;
  });
  expect(Math.max(...off) - Math.min(...off)).toBeLessThan(0.5);
  for (const [name, , , pan] of PARTS)
    expect(
      Math.abs((said.tracks.find((t) => t.file.endsWith(name))?.roughMix?.pan as number) - pan),
    ).toBeLessThan(0.06);
  expect(said.mixBusPeakDbfs).toBeLessThanOrEqual(-6);
});

it('says so where there is no mix, and what a call lacks', () => {
  const alone = join(folder, 'alone');
  mkdirSync(alone);
  return writeWav(join(alone, 'Bass.wav'), [make('bass', 5, 4, 0.3)]).then(() => {
    const said = fernmossJson<Balanced>(['balance', alone]);
    expect(said).toMatchObject({ mix: null, explained: null, reason: 'no file is the mix of the others' });
    expect(said.tracks[0]?.roughMix).toBeNull();
    const broken = join(folder, 'broken mix.wav');
    writeFileSync(broken, 'no sound at all');
    const told = fernmoss(['balance', alone, '--mix', broken, '--json']);
    expect(told.status).toBe(1);
    expect(JSON.parse(told.out)).toMatchObject({
      mix: null,
      reason: 'the mix that was named could not be used',
    });
    expect(fernmoss(['balance']).status).toBe(2);
    expect(fernmoss(['balance', alone, '--mix', join(folder, 'nowhere.wav')]).status).toBe(2);
  });
});
