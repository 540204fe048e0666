import {
  applyChanges,
  emptySession,
  isFolder,
  listRows,
  ROOT,
  tracksInOrder,
  type SessionState,
} from '../session';
import { createRandom } from '../units';
import { DEFAULT_STYLE, newTrack, packageFolderName, proposalEdits, proposeSort } from './index';

const NAMES = [
  'OH R.wav',
  'KICK in_03.wav',
  'Floor tom.wav',
  'LV.wav',
  'Tom 1.wav',
  'OH L.wav',
  'click.wav',
  'ROUGH MIX.wav',
  'DB di.wav',
  'Sn top.wav',
  'rec0011 t2.wav',
  'bv 2.wav',
  'bv 1.wav',
  'kck OUT.wav',
];
const SORTED = [
  'Drums',
  'Kick In',
  'Kick Out',
  'Snare Top',
  'Tom 1',
  'Floor Tom',
  'Overhead L',
  'Overhead R',
  'Bass',
  'Double Bass DI',
  'Voices',
  'Lead Vocal',
  'Backing Vocal 1',
  'Backing Vocal 2',
  'rec0011 t2',
  'Reference',
  'Rough Mix',
  'Click',
];

const apply = (s: SessionState, edits: Parameters<typeof applyChanges>[1]): SessionState => {
  const outcome = applyChanges(s, edits);
  if (!outcome.ok) throw new Error(`${outcome.code} ${outcome.id}`);
  return outcome.session;
};
const received = (names: readonly string[]): SessionState =>
  apply(
    emptySession('s'),
    names.map((n, index) => ({
      kind: 'track.add',
      track: newTrack(`t${index}`, n, { dualMono: false }, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
  );
const sort = (s: SessionState, which: (id: string) => boolean = () => true): SessionState => {
  const proposal = proposeSort(s, DEFAULT_STYLE);
  return apply(
    s,
    proposalEdits(s, DEFAULT_STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId).filter(which))),
  );
};
const names = (s: SessionState): string[] => listRows(s).map((r) => r.node.name);

it('puts a delivery in the order of the house, references muted and last', () => {
  const s = sort(received(NAMES));
  expect(names(s)).toEqual(SORTED);
  for (const t of tracksInOrder(s)) expect(t.muted).toBe(['reference', 'click'].includes(t.family));
  expect(tracksInOrder(s).find((t) => t.name === 'Overhead L')?.pan).toBe(-1);
  for (const row of listRows(s))
    if (isFolder(row.node)) expect(row.node.busId === null).toBe(row.node.name === 'Reference');
});

it('comes to the same in any number of steps, ticked in any order (seed 12)', () => {
  const random = createRandom(12);
  for (let round = 0; round < 40; round++) {
    let s = received(NAMES);
    for (let step = 0; step < 4; step++) s = sort(s, () => random() < 0.4);
    s = sort(s);
    expect(names(s)).toEqual(SORTED);
    // Nothing is left to propose once all was applied.
    expect(
      proposeSort(s, DEFAULT_STYLE).rows.filter((r) => r.moves || Object.keys(r.fields).length > 0),
    ).toEqual([]);
  }
});

it('puts a late row in its place among those already sorted', () => {
  const s = sort(
    sort(received(NAMES), (id) => id !== 't0'),
    (id) => id === 't0',
  );
  expect(names(s)).toEqual(SORTED);
});

it('keeps what a person set: name, family, colour, place of the unticked', () => {
  let s = received(NAMES);
  s = apply(s, [
    {
      kind: 'track.change',
      id: 't10',
      fields: { name: 'Tenor Banjo', family: 'guitars', part: 'banjo', byHand: ['name', 'family'] },
    },
    { kind: 'track.change', id: 't3', fields: { color: '#123456', byHand: ['color'] } },
  ]);
  s = sort(s);
  expect(names(s)).toContain('Tenor Banjo');
  expect(names(s).indexOf('Tenor Banjo')).toBe(names(s).indexOf('Guitars') + 1);
  expect(tracksInOrder(s).find((t) => t.id === 't3')?.color).toBe('#123456');
});

it('groups rows into certain, doubtful and unmatched, each with its evidence', () => {
  const { rows } = proposeSort(received(['Kick.wav', 'rec0011.wav', 'Vox.wav', 'Vox b.wav']), DEFAULT_STYLE);
  const group = (id: string) => rows.find((r) => r.trackId === id)?.group;
  expect([group('t0'), group('t1'), group('t2')]).toEqual(['certain', 'unmatched', 'doubtful']);
  expect(rows.find((r) => r.trackId === 't2')?.evidence.length).toBeGreaterThan(0);
});

it('takes its edits back exactly', () => {
  const before = received(NAMES);
  const proposal = proposeSort(before, DEFAULT_STYLE);
  const done = applyChanges(
    before,
    proposalEdits(before, DEFAULT_STYLE, proposal, new Set(proposal.rows.map((r) => r.trackId))),
  );
  if (!done.ok) throw new Error(done.code);
  expect(apply(done.session, done.inverse)).toEqual(before);
});

it('names package folders safely', () => {
  expect(packageFolderName('Die Möwen', 'Über/alles..', 3)).toBe('Die-Mowen_Uber-alles_v3');
  expect(packageFolderName('', '☃', 1)).toBe('Song_v1');
});
