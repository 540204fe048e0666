import { createRandom } from '../units';
import {
  createSongMap,
  formatBarPulse,
  formatClock,
  readMidi,
  songMapFromFile,
  songMapFromMidi,
  songMapToFile,
  songMapToMidi,
  type SongMap,
} from './index';

/** A wandering map with one short bar; first downbeat where said. */
function wandering(seed: number, firstSeconds: number): SongMap {
  const random = createRandom(seed);
  const points = [{ quarters: 0, seconds: firstSeconds }];
  for (let q = 1; q <= 64; q++)
    points.push({ quarters: q, seconds: (points.at(-1)?.seconds ?? 0) + 0.5 + 0.1 * random() });
  return createSongMap(points, [
    { bar: 1, numerator: 4, denominator: 4 },
    { bar: 6, numerator: 2, denominator: 4 },
    { bar: 7, numerator: 4, denominator: 4 },
  ]);
}

describe('a map as MIDI beside its files', () => {
  it.each([0, 0.013, 2.7, 7.1])(
    'tick 0 is the first frame and a bar line; every beat within 0.1 ms (first downbeat at %d s)',
    (first) => {
      const map = wandering(3, first);
      const midi = readMidi(songMapToMidi(map, map.tempo.toSeconds(64)));
      if (!midi.ok) throw new Error(midi.error.code);
      const lead = (midi.value.markers[0]?.tick ?? -1) / 960;
      expect(lead % 4).toBe(0);
      expect(lead > 0).toBe(first > 0);
      for (let q = 0; q <= 64; q++)
        expect(Math.abs(midi.value.toSeconds((q + lead) * 960) - map.tempo.toSeconds(q)) * 1000).toBeLessThan(
          0.1,
        );
      expect(midi.value.meters.map((m) => [m.tick / 960 - lead, m.numerator])).toEqual([
        [0 - lead, 4],
        [20, 2],
        [22, 4],
      ]);
    },
  );
  it('refuses a first downbeat before the start', () => {
    expect(() =>
      songMapToMidi(
        createSongMap(
          [
            { quarters: 0, seconds: -1 },
            { quarters: 4, seconds: 1 },
          ],
          [{ bar: 1, numerator: 4, denominator: 4 }],
        ),
        2,
      ),
    ).toThrow(RangeError);
  });
});

it('keeps a map through JSON and says what is wrong with a broken one', () => {
  const file = songMapToFile(wandering(1, 2));
  const back = songMapFromFile(JSON.parse(JSON.stringify(file)) as typeof file);
  expect(back.ok && songMapToFile(back.value)).toEqual(file);
  expect(songMapFromFile({ ...file, points: [file.points[1]!, file.points[0]!] })).toMatchObject({
    ok: false,
    error: { code: 'map.invalid' },
  });
});

it('names places as people read them', () => {
  const map = wandering(2, 4);
  expect(formatBarPulse(map, map.tempo.toSeconds(0))).toBe('1.1');
  expect(formatBarPulse(map, map.tempo.toSeconds(21) + 0.01)).toBe('6.2');
  expect(formatBarPulse(map, map.tempo.toSeconds(22))).toBe('7.1');
  expect([formatClock(0), formatClock(61.2345), formatClock(59.9996), formatClock(5, 0)]).toEqual([
    '0:00.000',
    '1:01.235',
    '1:00.000',
    '0:05',
  ]);
});

describe('a map from a MIDI file', () => {
  it.each([0, 2.4])(
    'what was written is read back: every quarter, every bar line (first downbeat at %d s)',
    (first) => {
      const map = wandering(7, first);
      const read = songMapFromMidi(songMapToMidi(map, map.tempo.toSeconds(64)));
      if (!read.ok) throw new Error(read.error.reason);
      for (let q = 0; q <= 64; q++)
        expect(Math.abs(read.value.tempo.toSeconds(q) - map.tempo.toSeconds(q))).toBeLessThan(1e-4);
      for (let bar = 1; bar < 14; bar++)
        expect(read.value.meters.barToQuarters(bar)).toBe(map.meters.barToQuarters(bar));
    },
  );
  it('what is no MIDI file is refused', () => expect(songMapFromMidi(new Uint8Array(40)).ok).toBe(false));
});
