import type { EditSummary } from '@/core/session';
import { summaryLines } from './history-words';

const nothing: EditSummary = {
  renamed: [],
  changed: 0,
  moved: 0,
  tracksAdded: 0,
  tracksRemoved: 0,
  foldersAdded: 0,
  foldersRemoved: 0,
  busesAdded: 0,
  busesRemoved: 0,
  rate: false,
  described: false,
  map: null,
  keptMaps: null,
  conform: null,
  markers: null,
  words: null,
  groups: false,
  style: false,
  cut: false,
};

it('says what will happen, in one line each, and nothing else', () => {
  expect(summaryLines(nothing)).toEqual([]);
  expect(
    summaryLines({
      ...nothing,
      renamed: [{ from: 'Kick In', to: 'KICK in_03' }],
      changed: 1,
      tracksRemoved: 1,
      map: 'removed',
      conform: 'removed',
    }),
  ).toEqual([
    '1 name changes: Kick In → KICK in_03',
    '1 row changes in name, family, colour, routing, level or mute',
    '1 track leaves the list; the recording stays',
    'the tempo map goes',
    'conforming is off: the recordings are heard as played',
  ]);
});
it('counts saved maps', () => {
  expect([summaryLines({ ...nothing, keptMaps: 0 }), summaryLines({ ...nothing, keptMaps: 1 })]).toEqual([
    ['the saved maps go'],
    ['1 saved map is there'],
  ]);
});
it('counts markers', () => {
  expect([summaryLines({ ...nothing, markers: 0 }), summaryLines({ ...nothing, markers: 3 })]).toEqual([
    ['the markers go'],
    ['3 markers hold'],
  ]);
});
it('names a few and counts the rest', () => {
  const renamed = Array.from({ length: 6 }, (_, i) => ({ from: `a${i}`, to: `b${i}` }));
  expect(summaryLines({ ...nothing, renamed })[0]).toBe(
    '6 names change: a0 → b0, a1 → b1, a2 → b2, a3 → b3 and 2 more',
  );
});
