import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseTable } from '@/core/delivery';
import { fernmoss } from '../support/programs';
import { make, quantise, type Voice } from '../support/labelled';
import { writeWav } from '../support/recordings';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-batch-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const song = join(folder, 'Salt Ledger');
const out = join(folder, 'out');

interface Packaged {
  readonly files: readonly { readonly path: string; readonly name: string }[];
  readonly leftOut: readonly { readonly name: string; readonly reason: string }[];
  readonly checks: readonly { readonly code: string; readonly state: string; readonly title: string }[];
}
interface Verified {
  readonly pass: boolean;
  readonly checks: readonly { readonly code: string; readonly pass: boolean; readonly figure: string }[];
  readonly notChecked: readonly string[];
  readonly notInPackage: readonly string[] | null;
}

// A delivery in folders: one recording twice under two names, one that was never played, a mix that is called like a bass.
const PARTS: readonly (readonly [string, Voice])[] = [
  ['Rhythm/Kick.wav', 'drums'],
  ['Rhythm/Shaker.wav', 'hats'],
  ['Low/Bass.wav', 'bass'],
  ['Strings/Guitar.wav', 'plucked'],
  ['Voice/Lead Vox.wav', 'voice'],
];

beforeAll(async () => {
  for (const dir of ['Rhythm', 'Low', 'Strings', 'Voice']) mkdirSync(join(song, dir), { recursive: true });
  const sounds = PARTS.map(([, voice], k) => quantise(make(voice, 70 + k, 16, 0.4), 24));
  for (const [k, [name]] of PARTS.entries()) await writeWav(join(song, name), [sounds[k] as Float32Array]);
  writeFileSync(join(song, 'Voice', 'Lead Vox again.wav'), readFileSync(join(song, 'Voice', 'Lead Vox.wav')));
  await writeWav(join(song, 'Low', 'Spare.wav'), [new Float32Array(16 * 48_000)]);
  const mix = (sounds[0] as Float32Array).map((_, i) =>
    sounds.reduce((sum, x, k) => sum + ([0.5, 0.3, 0.6, 0.4, 0.7][k] as number) * (x[i] as number), 0),
  );
  await writeWav(join(song, 'Bassline of Dawn 3.wav'), [mix, mix.map((x) => 0.97 * x)]);
}, 60_000);

it('leaves out what is silent or there twice, says which and why, and takes the mix for one whatever its name', () => {
  const made = fernmoss(['package', song, '--out', out, '--json']);
  const value = JSON.parse(made.out) as Packaged;
  expect(value.leftOut).toEqual([
    { name: 'Low/Spare.wav', reason: 'There is no sound in it.' },
    { name: 'Voice/Lead Vox again.wav', reason: 'The same file as Voice/Lead Vox.wav.' },
  ]);
  const list = readFileSync(join(out, 'data/session/tracks.csv'), 'utf8').split('\r\n');
  expect(list.find((l) => l.includes('Bassline of Dawn'))).toContain(',reference,');
  expect(value.files).toHaveLength(PARTS.length + 2); // the mix and the click
  const note = readFileSync(join(out, 'data/session/cover-note.html'), 'utf8');
  for (const { name, reason } of value.leftOut) expect(note).toContain(`<code>${name}</code>: ${reason}`);
}, 120_000);

it('verify compares with what was received, and says what of it is not in the package', () => {
  const verify = (...args: string[]): { status: number | null; value: Verified } => {
    const done = fernmoss(['verify', ...args, '--json']);
    return { status: done.status, value: JSON.parse(done.out) as Verified };
  };
  const alone = verify(out);
  expect([alone.status, alone.value.notChecked, alone.value.notInPackage]).toEqual([
    0,
    [expect.stringContaining('not at hand')],
    null,
  ]);
  const beside = verify(out, '--received', song);
  expect([beside.status, beside.value.notChecked, beside.value.notInPackage]).toEqual([
    0,
    [],
    ['Low/Spare.wav', 'Voice/Lead Vox again.wav'],
  ]);
  expect(beside.value.checks.find((c) => c.code === 'audio-content')?.figure).toBe(
    '6 of 6 recordings compared',
  );
  // Somebody played it louder since: no byte of the package is wrong, and yet it is not what is there.
  const kick = join(song, 'Rhythm', 'Kick.wav');
  const own = readFileSync(kick);
  const changed = Buffer.from(own);
  const at = changed.length / 2 - ((changed.length / 2) % 3);
  changed.writeUInt8((changed.readUInt8(at) + 64) & 255, at);
  writeFileSync(kick, changed);
  const other = verify(out, '--received', song);
  expect([other.status, other.value.checks.filter((c) => !c.pass).map((c) => c.code)]).toEqual([
    1,
    ['audio-content'],
  ]);
  rmSync(kick);
  const missing = verify(out, '--received', song);
  expect([missing.status, missing.value.notChecked]).toEqual([
    0,
    [expect.stringMatching(/Kick\.wav: .*is not at hand/)],
  ]);
  writeFileSync(kick, own);
}, 120_000);

it('finds a turned microphone by its signal, whatever the two are called', async () => {
  const dir = join(folder, 'misread');
  mkdirSync(dir);
  const [snare, guitar] = [make('drums', 5, 14), make('plucked', 6, 14)];
  let low = 0;
  const under = snare.map((x) => -0.7 * (low += 0.4 * (x - low)));
  const files: readonly (readonly [string, Float32Array])[] = [
    ['Crate lid.wav', snare],
    ['Winter.wav', under],
    ['Guitar.wav', guitar],
    ['Bass.wav', make('bass', 7, 14)],
  ];
  for (const [name, x] of files) await writeWav(join(dir, name), [x]);
  const done = fernmoss(['inspect', ...files.map(([name]) => join(dir, name)), '--session', '--json']);
  const last = (
    JSON.parse(done.out) as { micRelations?: Record<string, unknown>[]; findings: unknown[] }[]
  ).at(-1);
  expect(last?.micRelations).toEqual([
    expect.objectContaining({
      file: join(dir, 'Winter.wav'),
      leader: join(dir, 'Crate lid.wav'),
      polarity: -1,
    }),
  ]);
  expect(last?.findings).toEqual(
    expect.arrayContaining([expect.objectContaining({ code: 'mic-polarity', severity: 'check' })]),
  );
}, 60_000);

it('the track list names the file a channel lay in, and the time stamp it came with', async () => {
  const dir = join(folder, 'reel');
  mkdirSync(dir);
  const channels = [3, 4, 5, 6].map((k) => quantise(make(k % 2 ? 'drums' : 'plucked', 40 + k, 12), 24));
  await writeWav(join(dir, 'Reel 7.wav'), channels);
  const stamped = join(dir, 'Bass.wav');
  await writeWav(stamped, [make('bass', 9, 12)]);
  // A broadcast chunk (EBU Tech 3285): the time reference lies 338 bytes into it.
  const bext = Buffer.alloc(8 + 602);
  bext.write('bext', 0, 'latin1');
  bext.writeUInt32LE(602, 4);
  bext.writeUInt32LE(48_000 * 36, 8 + 338);
  const own = readFileSync(stamped);
  const whole = Buffer.concat([own.subarray(0, 12), bext, own.subarray(12)]);
  whole.writeUInt32LE(whole.length - 8, 4);
  writeFileSync(stamped, whole);
  const target = join(folder, 'reel-out');
  fernmoss(['package', dir, '--out', target]);
  const [head = [], ...rows] = parseTable(readFileSync(join(target, 'data/session/tracks.csv'), 'utf8'));
  const cell = (row: readonly string[], name: string): string => row[head.indexOf(name)] ?? '';
  expect(
    rows
      .map((r) => [cell(r, 'sourceFile'), cell(r, 'sourceChannel'), cell(r, 'receivedTimeStampSeconds')])
      .sort(),
  ).toEqual([['Bass.wav', '', '36'], ...[1, 2, 3, 4].map((n) => ['Reel 7.wav', `${n}`, ''])]);
  const done = fernmoss(['verify', target, '--received', dir, '--json']);
  const value = JSON.parse(done.out) as Verified;
  expect([done.status, value.notChecked, value.notInPackage]).toEqual([0, [], []]);
  expect(value.checks.find((c) => c.code === 'audio-content')?.figure).toBe('5 of 5 recordings compared');
}, 60_000);
