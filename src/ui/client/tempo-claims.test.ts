import type { SongMapFile } from '@/core/time';
import { besideMap, saidWhere } from './tempo-claims';

const at = (bpm: number): SongMapFile => ({
  schemaVersion: 1,
  points: [
    { quarters: 0, seconds: 1 },
    { quarters: 100, seconds: 1 + 6000 / bpm },
  ],
  meters: [{ bar: 1, numerator: 4, denominator: 4 }],
});

it('sets a claimed tempo beside the map: the same, counted otherwise, another, or nothing to compare with', () => {
  expect(besideMap(104, at(104))).toBe(', as in the map');
  expect(besideMap(104.4, at(104))).toBe(', as in the map');
  expect(besideMap(52, at(104))).toBe(', half or double of the map');
  expect(besideMap(208, at(104))).toBe(', half or double of the map');
  expect(besideMap(120, at(104))).toBe('; the map has 104.0');
  expect(besideMap(120, null)).toBe('');
  // 90 quarters a minute are 60 dotted ones: names say either, files the quarters.
  const inSix = { ...at(90), meters: [{ bar: 1, numerator: 6, denominator: 8 }] };
  expect([60, 90, 100].map((bpm) => besideMap(bpm, inSix))).toEqual([
    ', as in the map',
    ', as in the map',
    '; the map has 60.0',
  ]);
});

it('says where it stands', () => {
  expect(saidWhere({ kind: 'tempo', value: '96', inNames: 1, inFiles: 2, inNotes: false })).toBe(
    'in 1 name, inside 2 files',
  );
  expect(saidWhere({ kind: 'tempo', value: '96', inNames: 0, inFiles: 1, inNotes: true })).toBe(
    'in the notes, inside 1 file',
  );
});
