import type { Marker } from '@/core/session';
import { createSongMap } from '@/core/time';
import {
  barsBetween,
  barsLater,
  begunAt,
  calledAs,
  dropped,
  foundMarkers,
  hasSections,
  joined,
  markerRows,
  nearestLine,
  shiftedFrom,
} from './section-edits';

/** 120 BPM from 1 s on, 4/4 and from bar 5 on 3/4: bars of 2 s, then of 1.5 s. */
const map = createSongMap(
  [
    { quarters: 0, seconds: 1 },
    { quarters: 100, seconds: 51 },
  ],
  [
    { bar: 1, numerator: 4, denominator: 4 },
    { bar: 5, numerator: 3, denominator: 4 },
  ],
);
const marks = (...list: readonly (readonly [string, number])[]): Marker[] =>
  list.map(([name, seconds], i) => ({ id: `m${i}`, name, seconds }));

it('goes by the bar lines of the map, also where the meter changes; by seconds without a map', () => {
  expect([nearestLine(map, 4.2), nearestLine(map, 0), nearestLine(map, 10)]).toEqual([5, 1, 10.5]);
  expect([barsLater(map, 5, 1), barsLater(map, 7, 2), barsLater(map, 1, -3)]).toEqual([7, 10.5, 1]);
  expect([nearestLine(null, 4.2), barsLater(null, 4, -8)]).toEqual([4.2, 0]);
  expect([barsBetween(map, 1, 9), barsBetween(map, 9, 12), barsBetween(null, 0, 1)]).toEqual([4, 2, null]);
});

it('drops, moves, shifts and joins, and never past a neighbour', () => {
  const some = marks(['A', 1], ['B', 5], ['C', 9]);
  expect(dropped(some, 7, 'x')?.map((m) => m.id)).toEqual(['m0', 'm1', 'x', 'm2']);
  expect(dropped(some, 5.001, 'x')).toBeNull();
  expect(begunAt(some, 'm1', 7)?.map((m) => m.seconds)).toEqual([1, 7, 9]);
  expect([begunAt(some, 'm1', 9), begunAt(some, 'm1', 1), begunAt(some, 'm1', 5)]).toEqual([
    null,
    null,
    null,
  ]);
  expect(shiftedFrom(some, 'm1', 7)?.map((m) => m.seconds)).toEqual([1, 7, 11]);
  expect(shiftedFrom(some, 'm1', 0.5)).toBeNull();
  expect(joined(some, 'm1').map((m) => m.name)).toEqual(['A', 'C']);
});

it('calls by a kind and numbers what is alike, also what is left of the kind before', () => {
  const some = marks(['Verse 1', 1], ['Chorus', 5], ['Verse 2', 9], ['Verse 3, quiet', 12], ['C?', 15]);
  expect(calledAs(some, ['m4'], 'chorus').map((m) => m.name)).toEqual([
    'Verse 1',
    'Chorus 1',
    'Verse 2',
    'Verse 3, quiet',
    'Chorus 2',
  ]);
  expect(calledAs(some, ['m0'], 'pre-chorus').map((m) => m.name)).toEqual([
    'Pre-chorus',
    'Chorus',
    'Verse',
    'Verse 3, quiet',
    'C?',
  ]);
});

it('keeps the doubt of what was found as long as it is as it was found', () => {
  const one = { like: 'A', toBar: null, fromBar: null, confidence: 0.6, kindConfidence: 0.9 } as const;
  const found = {
    map: null,
    maybe: [],
    sections: [
      { ...one, name: 'Intro', kind: 'intro' as const, fromSeconds: 0, toSeconds: 8 },
      { ...one, name: 'B?', kind: 'verse' as const, fromSeconds: 8, toSeconds: 16 },
    ],
  };
  const same = marks(['Intro', 0], ['B?', 8]);
  expect(markerRows(same, 20, found).map((r) => [r.name, r.kind, r.toSeconds, r.doubt])).toEqual([
    ['Intro', 'intro', 8, null],
    ['B?', null, 20, '60 % sure that it begins here; what it is is not clear: verse?'],
  ]);
  const moved = marks(['Intro', 0], ['B?', 10]);
  expect(markerRows(moved, 20, found)[1]?.doubt).toBeNull();
  // A named place is no section, and stays where found ones come in.
  const talk = marks(['Talk before the first note', 3], ['Verse', 9]);
  expect([hasSections(talk), hasSections(talk.slice(0, 1))]).toEqual([true, false]);
  expect(foundMarkers(talk, found).map((m) => m.name)).toEqual(['Intro', 'Talk before the first note', 'B?']);
});
