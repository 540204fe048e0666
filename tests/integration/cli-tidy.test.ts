import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fernmoss, fernmossJson, run } from '../support/programs';
import { writeWav } from '../support/recordings';
import { soundOf, struck } from '../support/tidy-sounds';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-cli-tidy-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const song = join(folder, 'song');
const out = join(folder, 'out');
const RATE = 48_000;

interface Stretch {
  readonly fromSeconds: number;
  readonly toSeconds: number;
  readonly reason: string;
  readonly confidence: number;
}
interface Tidied {
  readonly file: string;
  readonly group: string | null;
  readonly floorDbfs: number | null;
  readonly keep: readonly Stretch[];
  readonly removed: readonly Stretch[];
  readonly fadeSeconds: number;
  readonly gainDb: number;
  readonly reachedLufs: number | null;
  readonly reachedPeakDbfs: number | null;
  readonly why: string | null;
}

const SOUNDS: Readonly<Record<string, Float32Array>> = {
  'Ac Gtr.wav': soundOf(
    14,
    (t, n) => 4e-4 * n() + 0.3 * struck(t - 3.013, 220, 0.9) + 0.2 * struck(t - 9.5, 330, 0.9),
    1,
  ),
  'Piano L.wav': soundOf(14, (t, n) => 2e-4 * n() + 0.4 * struck(t - 4, 262, 1), 2),
  'Piano R.wav': soundOf(14, (t, n) => 2e-4 * n() + 0.4 * struck(t - 8, 392, 1), 3),
  'Empty.wav': soundOf(14, () => 0),
};
const at = (rows: readonly Tidied[], name: string): Tidied =>
  rows.find((r) => r.file.endsWith(name)) as Tidied;
const samples = (path: string): Float32Array => {
  const raw = join(folder, 'samples.raw');
  run('ffmpeg', ['-y', '-v', 'error', '-i', path, '-f', 'f32le', raw]);
  return new Float32Array(new Uint8Array(readFileSync(raw)).buffer);
};
let rows: readonly Tidied[] = [];

beforeAll(async () => {
  mkdirSync(song);
  for (const [name, sound] of Object.entries(SOUNDS))
    await writeWav(join(song, name), [sound], { bitDepth: 32 });
  rows = fernmossJson<Tidied[]>(['tidy', song, '--out', out]);
}, 60_000);

it('stretches cover each file without overlap, and say why they stay or go', () => {
  expect(rows).toHaveLength(4);
  for (const row of rows) {
    const all = [...row.keep, ...row.removed].sort((a, b) => a.fromSeconds - b.fromSeconds);
    expect(all[0]?.fromSeconds).toBe(0);
    expect(all.at(-1)?.toSeconds).toBeCloseTo(14, 6);
    all.slice(1).forEach((s, i) => expect(s.fromSeconds).toBeCloseTo(all[i]?.toSeconds as number, 6));
  }
  const guitar = at(rows, 'Ac Gtr.wav');
  expect(guitar.keep.map((k) => k.reason)).toEqual(['sound', 'sound']);
  expect(guitar.removed.map((k) => k.reason)).toEqual(['head', 'noise', 'tail']);
  // 4e-4 RMS: −67.96 dBFS.
  expect(Math.abs((guitar.floorDbfs as number) + 67.96)).toBeLessThan(0.6);
});

it('a note begins where it begins: with no pad to 5 ms', () => {
  const exact = fernmossJson<Tidied[]>(['tidy', join(song, 'Ac Gtr.wav'), '--before', '0']);
  expect(Math.abs((exact[0]?.keep[0]?.fromSeconds as number) - 3.013)).toBeLessThan(0.005);
});

it('what stays is untouched outside of the fades, the rest is zero', () => {
  for (const row of rows) {
    const name = row.file.split('/').at(-1) as string;
    const cut = samples(join(out, name));
    const received = SOUNDS[name] as Float32Array;
    expect(cut.length).toBe(received.length);
    const fade = Math.round(row.fadeSeconds * RATE);
    let wrong = 0;
    for (const { fromSeconds, toSeconds } of row.keep) {
      const [from, to] = [Math.round(fromSeconds * RATE), Math.round(toSeconds * RATE)];
      for (let i = from + fade; i < to - fade; i++) if (cut[i] !== received[i]) wrong++;
    }
    for (const { fromSeconds, toSeconds } of row.removed)
      for (let i = Math.round(fromSeconds * RATE); i < Math.round(toSeconds * RATE); i++)
        if (cut[i] !== 0) wrong++;
    expect(wrong).toBe(0);
  }
});

// EBU R 128 as ffmpeg measures it.
it('reaches the loudness and the peak it says', () => {
  for (const row of rows) {
    if (row.reachedLufs === null) continue;
    const said = run('sh', [
      '-c',
      `ffmpeg -nostats -i "$1" -af "volume=${row.gainDb}dB:precision=double,ebur128=peak=sample" -f null - 2>&1`,
      'sh',
      join(out, row.file.split('/').at(-1) as string),
    ]);
    const figure = (name: RegExp): number =>
      Number((name.exec(said.slice(said.lastIndexOf('Summary'))) as RegExpExecArray)[1]);
    expect(Math.abs(figure(/I:\s+(-?[\d.]+) LUFS/) - row.reachedLufs)).toBeLessThanOrEqual(0.1);
    // It prints a tenth of a dB.
    expect(Math.abs(figure(/Peak:\s+(-?[\d.]+) dBFS/) - (row.reachedPeakDbfs as number))).toBeLessThanOrEqual(
      0.05 + 0.051,
    );
    expect(row.reachedPeakDbfs).toBeLessThanOrEqual(-12 + 1e-6);
  }
});

it('both sides of a pair are cut and turned alike; a file without sound stays, and it is said why', () => {
  const [left, right] = [at(rows, 'Piano L.wav'), at(rows, 'Piano R.wav')];
  const places = (r: Tidied): unknown => r.keep.map((k) => [k.fromSeconds, k.toSeconds]);
  expect(left.group).not.toBeNull();
  expect([right.group, places(right), right.gainDb]).toEqual([left.group, places(left), left.gainDb]);
  expect(at(rows, 'Empty.wav')).toMatchObject({
    removed: [],
    gainDb: 0,
    reachedLufs: null,
    why: 'it holds no sound',
  });
});

it('a wrong call is told, a broken file is listed, nothing is written over', () => {
  expect(fernmoss(['tidy']).status).toBe(2);
  for (const words of [
    ['--threshold', 'loud'],
    ['--before', '-1'],
    ['--shortest', ''],
    ['--threshold', '7'],
  ])
    expect(fernmoss(['tidy', song, ...words]).status).toBe(2);
  expect(fernmoss(['tidy', song, '--out', out])).toMatchObject({
    status: 2,
    err: expect.stringContaining('is there already'),
  });
  const broken = join(folder, 'broken.wav');
  writeFileSync(broken, 'no sound at all');
  const told = fernmoss(['tidy', broken, join(song, 'Piano L.wav'), '--json']);
  expect(told.status).toBe(1);
  const [bad, good] = JSON.parse(told.out) as [Tidied, Tidied];
  expect(bad).toMatchObject({ keep: [], removed: [], floorDbfs: null });
  expect(bad.why).not.toBeNull();
  expect(good.keep.length).toBeGreaterThan(0);
  expect(existsSync(join(out, 'broken.wav'))).toBe(false);
});

it('a threshold by hand decides alone', () => {
  const [row] = fernmossJson<Tidied[]>(['tidy', join(song, 'Ac Gtr.wav'), '--threshold', '-15']);
  expect(row?.keep).toHaveLength(1);
});
