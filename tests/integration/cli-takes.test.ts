import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { fernmoss, fernmossJson } from '../support/programs';
import { makeDelivery, type Naming } from '../support/takes/delivery';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-cli-takes-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Printed {
  readonly track: string;
  readonly lanes: readonly { readonly file: string; readonly number: number; readonly confidence: number }[];
  readonly wanted: string | null;
  readonly reason: string;
  readonly notTakes: readonly { readonly files: readonly string[]; readonly reason: string }[];
  readonly questions: readonly { readonly files: readonly string[]; readonly question: string }[];
  readonly mix: string | null;
  readonly refused: readonly { readonly file: string; readonly reason: string }[];
}

let made = 0;
async function said(kind: string, naming: Naming, hasMix: boolean): Promise<Printed[]> {
  const path = join(folder, `${++made}`);
  mkdirSync(path);
  await makeDelivery(path, { kind, seed: 7, naming, hasMix });
  return fernmossJson<Printed[]>(['takes', path]);
}

const names = (files: readonly string[]): string[] => files.map((f) => basename(f));
const lanes = ({ lanes: list }: Printed): string[] => names(list.map((l) => l.file));

it('takes by their names are one track, its lanes in order', async () => {
  const [track, last] = (await said('two takes', 'telling', false)) as [Printed, Printed];
  expect([track.track, lanes(track).length, track.lanes.map((l) => l.number)]).toEqual([
    'Lead Vocal',
    2,
    [1, 2],
  ]);
  expect([last.notTakes, last.questions, last.refused]).toEqual([[], [], []]);
}, 120_000);

it('takes whose names say nothing are told by the mix, which says what is wanted', async () => {
  const [track, last] = (await said('takes, loose', 'numbers', true)) as [Printed, Printed];
  expect(lanes(track)).toEqual([1, 2, 3, 4].map((n) => `Lead Vox ${n}.wav`));
  expect([basename(last.mix ?? ''), lanes(track).includes(basename(track.wanted ?? ''))]).toEqual([
    'rough mix.wav',
    true,
  ]);
}, 120_000);

it('a double is no take where the mix has both, and a question where there is none', async () => {
  const both = (await said('double, loose', 'numbers', true)) as [Printed];
  expect([both.length, both[0].notTakes.map((n) => names(n.files))]).toEqual([
    1,
    [['Lead Vox 1.wav', 'Lead Vox 2.wav']],
  ]);
  const none = (await said('double, loose', 'recorder', false)) as [Printed];
  expect([none.length, none[0].questions.map((n) => names(n.files))]).toEqual([
    1,
    [['REC2000.wav', 'REC2001.wav']],
  ]);
}, 120_000);

it('harmony, octave, a comp and a second microphone are told by ear alone', async () => {
  const of = async (kind: string) =>
    (await said(kind, 'recorder', false)).map((p) => p.reason ?? p.notTakes[0]?.reason);
  expect((await of('third'))[0]).toMatch(/^in harmony/);
  expect((await of('octave'))[0]).toMatch(/^an octave apart/);
  expect((await of('two microphones'))[0]).toMatch(/^two microphones/);
  expect((await of('comp and sources'))[0]).toMatch(/is put together from/);
}, 240_000);

it('goes on past what cannot be read, and says what is wrong with a call', async () => {
  const path = join(folder, 'broken');
  mkdirSync(path);
  await makeDelivery(path, { kind: 'two takes', seed: 8, naming: 'telling', hasMix: false });
  writeFileSync(join(path, 'Lead Vox take 9.wav'), 'no sound at all');
  const outcome = fernmoss(['takes', path, '--json']);
  const printed = JSON.parse(outcome.out) as Printed[];
  expect([outcome.status, printed.length, names(printed.at(-1)?.refused.map((r) => r.file) ?? [])]).toEqual([
    1,
    2,
    ['Lead Vox take 9.wav'],
  ]);
  expect(fernmoss(['takes']).status).toBe(2);
  expect(fernmoss(['takes', join(folder, 'none')]).status).toBe(2);
}, 120_000);
