import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LoudnessMeter, TruePeakMeter } from '@/core/analysis';
import { createRandom } from '@/core/units';
import { writeWav } from '../support/recordings';

const RATES = [44_100, 48_000, 96_000];
const { sin, PI } = Math;
/** 1 kHz at a level in dBFS, appended part by part. */
const partsAt =
  (rate: number) =>
  (list: readonly (readonly [dbfs: number, seconds: number])[]): Float32Array => {
    const out = new Float32Array(list.reduce((n, [, s]) => n + Math.round(s * rate), 0));
    let at = 0;
    for (const [dbfs, seconds] of list) {
      const level = 10 ** (dbfs / 20);
      const end = at + Math.round(seconds * rate);
      for (; at < end; at++) out[at] = level * sin((2 * PI * 1000 * at) / rate);
    }
    return out;
  };
const lufs = (rate: number, channels: readonly Float32Array[]): number | null => {
  const meter = new LoudnessMeter(rate, channels.length);
  meter.push(channels);
  return meter.integratedLufs();
};
const stereo = (x: Float32Array): Float32Array[] => [x, x];

// Signals and expected values: EBU Tech 3341, table 1 (from memory; measured the same with libebur128).
describe.each(RATES)('integrated loudness, EBU Tech 3341 cases 1–6, ±0.1 LU, %i Hz', (rate) => {
  const parts = partsAt(rate);
  it.each<[string, number, () => Float32Array[]]>([
    ['1', -23, () => stereo(parts([[-23, 20]]))],
    ['2', -33, () => stereo(parts([[-33, 20]]))],
    [
      '3',
      -23,
      () =>
        stereo(
          parts([
            [-36, 10],
            [-23, 60],
            [-36, 10],
          ]),
        ),
    ],
    [
      '4',
      -23,
      () =>
        stereo(
          parts([
            [-72, 10],
            [-36, 10],
            [-23, 60],
            [-36, 10],
            [-72, 10],
          ]),
        ),
    ],
    [
      '5',
      -23,
      () =>
        stereo(
          parts([
            [-26, 20],
            [-20, 20.1],
            [-26, 20],
          ]),
        ),
    ],
    [
      '6',
      -23,
      () => [
        parts([[-28, 20]]),
        parts([[-28, 20]]),
        parts([[-24, 20]]),
        parts([[-30, 20]]),
        parts([[-30, 20]]),
      ],
    ],
  ])('case %s reads %d LUFS', (_case, expected, make) => {
    expect(Math.abs((lufs(rate, make()) as number) - expected)).toBeLessThanOrEqual(0.1);
  });
  it('says nothing of silence', () => {
    expect(lufs(rate, stereo(new Float32Array(rate)))).toBeNull();
  });
});

// Cases 9, 10, 12, 13 (from memory): short-term and momentary, ±0.1 LU.
describe.each(RATES)(
  'momentary and short-term loudness, EBU Tech 3341 cases 9, 10, 12, 13, %i Hz',
  (rate) => {
    const parts = partsAt(rate);
    const steady = (
      list: readonly (readonly [number, number])[],
      times: number,
      from: number,
      read: (m: LoudnessMeter) => number | null,
    ): number => {
      const x = parts(Array.from({ length: times }, () => list).flat());
      const meter = new LoudnessMeter(rate, 2);
      let worst = 0;
      const step = Math.round(rate / 10);
      for (let at = 0; at + step <= x.length; at += step) {
        meter.push(stereo(x.subarray(at, at + step)));
        if (at + step > from * rate) worst = Math.max(worst, Math.abs((read(meter) ?? -999) + 23));
      }
      return worst;
    };
    it('9: short-term stays at −23 over a pattern of 3 s', () =>
      expect(
        steady(
          [
            [-20, 1.34],
            [-30, 1.66],
          ],
          5,
          3,
          (m) => m.shortTermLufs().now,
        ),
      ).toBeLessThanOrEqual(0.1));
    it('12: momentary stays at −23 over a pattern of 0.4 s', () =>
      expect(
        steady(
          [
            [-20, 0.18],
            [-30, 0.22],
          ],
          25,
          1,
          (m) => m.momentaryLufs().now,
        ),
      ).toBeLessThanOrEqual(0.1));
    const highest = (silence: number, tone: number, read: (m: LoudnessMeter) => number | null): number => {
      const meter = new LoudnessMeter(rate, 2);
      meter.push(
        stereo(
          parts([
            [-300, silence],
            [-23, tone],
            [-300, 1],
          ]),
        ),
      );
      return Math.abs((read(meter) ?? -999) + 23);
    };
    it('10: the highest short-term of 3 s is −23 wherever they begin', () => {
      for (let i = 0; i < 20; i++)
        expect(highest(0.15 * i, 3, (m) => m.shortTermLufs().highest)).toBeLessThanOrEqual(0.1);
    });
    it('13: the highest momentary of 0.4 s is −23 wherever they begin', () => {
      for (let i = 0; i < 20; i++)
        expect(highest(0.02 * i, 0.4, (m) => m.momentaryLufs().highest)).toBeLessThanOrEqual(0.1);
    });
  },
);

describe.each(RATES)('true peak, EBU Tech 3341 cases 15–19, +0.2/−0.4 dB, %i Hz', (rate) => {
  it.each<[string, number, number, number, number]>([
    ['15', 1 / 4, 0, 0.5, -6],
    ['16', 1 / 4, 45, 0.5, -6],
    ['17', 1 / 6, 60, 0.5, -6],
    ['18', 1 / 8, 67.5, 0.5, -6],
    ['19', 1 / 4, 45, 1.41, 3],
  ])('case %s', (_case, share, degrees, level, expected) => {
    const meter = new TruePeakMeter(rate, 1);
    // Faded in and out: a tone that begins in its middle overshoots by itself, which is not what the case is about.
    meter.push([
      Float32Array.from(
        { length: 9600 },
        (_, i) =>
          Math.min(1, i / 960, (9599 - i) / 960) * level * sin(2 * PI * share * i + (degrees * PI) / 180),
      ),
    ]);
    expect(meter.truePeakDbtp()).toBeGreaterThan(expected - 0.4);
    expect(meter.truePeakDbtp()).toBeLessThan(expected + 0.2);
  });
});

describe('beside ffmpeg’s ebur128', () => {
  const folder = mkdtempSync(join(tmpdir(), 'fernmoss-loudness-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  it.each([44_100, 48_000, 96_000])(
    'agrees to 0.1 LU on noise that swells and falls silent, %i Hz',
    async (rate) => {
      const random = createRandom(9);
      const make = (shift: number): Float32Array =>
        Float32Array.from({ length: 12 * rate }, (_, i) =>
          i > 7 * rate && i < 9 * rate ? 0 : 0.25 * (random() - 0.5) * (1 + sin(i / (0.7 * rate) + shift)),
        );
      const channels = [make(0), make(1)];
      const meter = new LoudnessMeter(rate, 2);
      meter.push(channels);
      const path = await writeWav(join(folder, `n${rate}.wav`), channels, { rateHz: rate });
      const said = spawnSync(
        'ffmpeg',
        ['-hide_banner', '-nostats', '-i', path, '-af', 'ebur128', '-f', 'null', '-'],
        { encoding: 'utf8' },
      ).stderr;
      const reference = Number(/Integrated loudness:\s+I:\s+(-?[\d.]+) LUFS/.exec(said)?.[1]);
      expect(Math.abs((meter.integratedLufs() as number) - reference)).toBeLessThanOrEqual(0.1);
    },
  );
});
