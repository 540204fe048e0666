import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createSongMap, songMapToMidi, type TempoPoint } from '@/core/time';
import { createRandom } from '@/core/units';
import { run } from '../support/programs';

// Read back by mido, an independent library; times summed in whole numbers of ticks × microseconds.
const folder = mkdtempSync(join(tmpdir(), 'fernmoss-midi-time-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const READ = `
import sys, json, mido
m = mido.MidiFile(sys.argv[1]); tick = 0; sum_ = 0; tempo = 500000; out = []; zero = 0; meters = []
for e in m.tracks[0]:
    tick += e.time; sum_ += e.time * tempo
    if e.type == 'set_tempo': tempo = e.tempo; out.append([tick, sum_])
    if e.type == 'marker': zero = tick
    if e.type == 'time_signature': meters.append([tick, e.numerator, e.denominator])
    if e.type == 'end_of_track': out.append([tick, sum_])
print(json.dumps({'ppq': m.ticks_per_beat, 'tempos': out, 'zero': zero, 'meters': meters}))
`;
const PPQ = 960;
const readBack = (
  bytes: Uint8Array,
): { ppq: number; tempos: [number, number][]; zero: number; meters: number[][] } => {
  const path = join(folder, 'map.mid');
  writeFileSync(path, bytes);
  return JSON.parse(run('/usr/bin/python3', ['-c', READ, path])) as ReturnType<typeof readBack>;
};

it('ten hours of wandering tempo: every point is met within Δ/(2·PPQ) µs, nothing adds up (seed 41)', () => {
  const random = createRandom(41);
  const points: TempoPoint[] = [{ quarters: 0, seconds: 2.4 }];
  while ((points.at(-1) as TempoPoint).seconds < 36_000) {
    const last = points.at(-1) as TempoPoint;
    const across = 1 + Math.floor(4 * random());
    points.push({
      quarters: last.quarters + across,
      seconds: last.seconds + across * (0.4 + 0.3 * random()),
    });
  }
  const map = createSongMap(points, [
    { bar: 1, numerator: 4, denominator: 4 },
    { bar: 9, numerator: 7, denominator: 8 },
    { bar: 10, numerator: 4, denominator: 4 },
  ]);
  const { ppq, tempos, zero, meters } = readBack(songMapToMidi(map, 36_000));
  expect(ppq).toBe(PPQ);
  expect(tempos.length).toBeGreaterThan(25_000);
  let worst = 0;
  tempos.forEach(([tick, sum], i) => {
    const before = tempos[i - 1]?.[0] ?? 0;
    if (tick < zero) return;
    const error = Math.abs(sum / ppq - 1e6 * map.tempo.toSeconds((tick - zero) / ppq));
    worst = Math.max(worst, error / ((tick - before) / (2 * ppq) || 1));
  });
  // The bound of the error feedback (shared notes on formats, derived and measured there), and floating point.
  expect(worst).toBeLessThan(1.01);
  expect(meters.map(([tick = 0, n, d]) => [(tick - zero) / ppq, n, d])).toEqual([
    [-zero / ppq, 4, 4],
    [32, 7, 8],
    [35.5, 4, 4],
  ]);
});

it('a ramp is written in steps that stray less than half a millisecond, and is met at both ends', () => {
  // 120 to 60 over 8 quarters take 8 ln 2 s (by hand).
  const map = createSongMap(
    [
      { quarters: 0, seconds: 0, ramp: 0.5 },
      { quarters: 8, seconds: 8 * Math.LN2 },
      { quarters: 12, seconds: 8 * Math.LN2 + 4 },
    ],
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
  const { tempos, ppq } = readBack(songMapToMidi(map, 8 * Math.LN2 + 4));
  expect(tempos.length).toBeGreaterThan(20);
  for (const [tick, sum] of tempos)
    expect(Math.abs(sum / ppq / 1e6 - map.tempo.toSeconds(tick / ppq))).toBeLessThan(0.0005);
  const end = tempos.find(([tick]) => tick === 8 * ppq);
  expect((end?.[1] ?? 0) / ppq / 1e6).toBeCloseTo(8 * Math.LN2, 5);
});
