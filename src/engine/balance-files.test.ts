import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { tone, writeWav } from '../../tests/support/recordings';
import { loudnessOfSum } from '@/core/balance';
import { dbToGain, gainToDb } from '@/core/units';
import { measureSums } from './balance-files';

const folder = mkdtempSync(join(tmpdir(), 'fernmoss-sums-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const silent = (seconds: number): Float32Array => new Float32Array(48_000 * seconds);

it('measures peak and loudness of each balance in one reading', async () => {
  const level = dbToGain(-20);
  const one = await writeWav(join(folder, 'one.wav'), [tone(1000, 12, level)]);
  // Sounds in a third of the song only.
  const sparse = new Float32Array(48_000 * 12);
  sparse.set(tone(1000, 4, level), 48_000 * 4);
  const other = await writeWav(join(folder, 'other.wav'), [sparse]);
  const tracks = [one, other].map((path) => ({ path, startFrames: 0, isInverted: false }));
  const at = (gainDb: number, pan = 0) => ({ gainDb, pan });
  const [alone, left, both, none] = await measureSums({
    tracks,
    balances: [
      [at(0), null],
      [at(0, -1), null],
      [at(-3), at(6)],
      [null, null],
    ],
  });
  // EBU Tech 3341, case 1: a 1 kHz sine of −23 dBFS on both sides is −23 LUFS. In the middle each side is 3 dB down.
  expect(alone?.integratedLufs).toBeCloseTo(-23, 1);
  expect(gainToDb(alone?.peak ?? 0)).toBeCloseTo(-23, 1);
  expect(gainToDb(left?.peak ?? 0)).toBeCloseTo(-20, 1);
  // On one side alone it has the same power as in the middle.
  expect(left?.integratedLufs).toBeCloseTo(-23, 1);
  expect(none).toEqual({ peak: 0, integratedLufs: null });
  // What tracks say one by one leaves out that one is silent most of the time, and that the two are the same tone: measured it is not the same.
  const told = loudnessOfSum([
    { integratedLufs: -23, gainDb: -3 },
    { integratedLufs: -23, gainDb: 6 },
  ]);
  expect(told).toBeCloseTo(-16.5, 1);
  expect(both?.integratedLufs).not.toBeCloseTo(told ?? 0, 0);
});

it('an inverted track takes the other away', async () => {
  const path = await writeWav(join(folder, 'twin.wav'), [tone(440, 2), silent(2)]);
  const tracks = [false, true].map((isInverted) => ({ path, startFrames: 0, isInverted }));
  const [sum] = await measureSums({
    tracks,
    balances: [
      [
        { gainDb: 0, pan: 0 },
        { gainDb: 0, pan: 0 },
      ],
    ],
  });
  expect(sum?.peak).toBeCloseTo(0, 9);
});
