import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LoudnessMeter, TruePeakMeter } from '@/core/analysis';
import { createRandom } from '@/core/units';
import { writeWav } from '../support/recordings';

const RATE = 48_000;
const { sin, PI } = Math;
/** 1 kHz at a level in dBFS, appended part by part. */
const parts = (list: readonly (readonly [dbfs: number, seconds: number])[]): Float32Array => {
  const out = new Float32Array(list.reduce((n, [, s]) => n + Math.round(s * RATE), 0));
  let at = 0;
  for (const [dbfs, seconds] of list) {
    const level = 10 ** (dbfs / 20);
    const end = at + Math.round(seconds * RATE);
    for (; at < end; at++) out[at] = level * sin((2 * PI * 1000 * at) / RATE);
  }
  return out;
};
const lufs = (channels: readonly Float32Array[]): number => {
  const meter = new LoudnessMeter(RATE, channels.length);
  meter.push(channels);
  return meter.integratedLufs() as number;
};
const stereo = (x: Float32Array): Float32Array[] => [x, x];

// Signals and expected values: EBU Tech 3341, table 1 (from memory; measured the same with libebur128).
describe('integrated loudness, EBU Tech 3341 cases 1–6, ±0.1 LU', () => {
  it.each<[string, number, () => Float32Array[]]>([
    ['1', -23, () => stereo(parts([[-23, 20]]))],
    ['2', -33, () => stereo(parts([[-33, 20]]))],
    ['3', -23, () => stereo(parts([[-36, 10], [-23, 60], [-36, 10]]))],
    ['4', -23, () => stereo(parts([[-72, 10], [-36, 10], [-23, 60], [-36, 10], [-72, 10]]))],
    ['5', -23, () => stereo(parts([[-26, 20], [-20, 20.1], [-26, 20]]))],
    ['6', -23, () => [parts([[-28, 20]]), parts([[-28, 20]]), parts([[-24, 20]]), parts([[-30, 20]]), parts([[-30, 20]])]],
  ])('case %s reads %d LUFS', (_case, expected, make) => {
    expect(Math.abs(lufs(make()) - expected)).toBeLessThanOrEqual(0.1);
  });
  it('says nothing of silence', () => {
    expect(lufs(stereo(new Float32Array(RATE)))).toBeNull();
  });
});

describe('true peak, EBU Tech 3341 cases 15–19, +0.2/−0.4 dB', () => {
  it.each<[string, number, number, number, number]>([
    ['15', 1 / 4, 0, 0.5, -6],
    ['16', 1 / 4, 45, 0.5, -6],
    ['17', 1 / 6, 60, 0.5, -6],
    ['18', 1 / 8, 67.5, 0.5, -6],
    ['19', 1 / 4, 45, 1.41, 3],
  ])('case %s', (_case, share, degrees, level, expected) => {
    const meter = new TruePeakMeter(RATE, 1);
    // Faded in and out: a tone that begins in its middle overshoots by itself, which is not what the case is about.
    meter.push([Float32Array.from({ length: 9600 }, (_, i) => Math.min(1, i / 960, (9599 - i) / 960) * level * sin(2 * PI * share * i + (degrees * PI) / 180))]);
    expect(meter.truePeakDbtp()).toBeGreaterThan(expected - 0.4);
    expect(meter.truePeakDbtp()).toBeLessThan(expected + 0.2);
  });
});

describe('beside ffmpeg’s ebur128', () => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-loudness-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  it.each([44_100, 48_000, 96_000])('agrees to 0.1 LU on noise that swells and falls silent, %i Hz', async (rate) => {
    const random = createRandom(9);
    const make = (shift: number): Float32Array => Float32Array.from({ length: 12 * rate }, (_, i) => (i > 7 * rate && i < 9 * rate ? 0 : 0.25 * (random() - 0.5) * (1 + sin(i / (0.7 * rate) + shift))));
    const channels = [make(0), make(1)];
    const meter = new LoudnessMeter(rate, 2);
    meter.push(channels);
    const path = await writeWav(join(folder, `n${rate}.wav`), channels, { rateHz: rate });
    const said = spawnSync('ffmpeg', ['-hide_banner', '-nostats', '-i', path, '-af', 'ebur128', '-f', 'null', '-'], { encoding: 'utf8' }).stderr;
    const reference = Number(/Integrated loudness:\s+I:\s+(-?[\d.]+) LUFS/.exec(said)?.[1]);
    expect(Math.abs((meter.integratedLufs() as number) - reference)).toBeLessThanOrEqual(0.1);
  });
});
