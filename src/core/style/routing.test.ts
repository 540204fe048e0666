import {
  applyChanges,
  emptySession,
  ROOT,
  tracksInOrder,
  type Change,
  type SessionState,
  type Track,
} from '../session';
import {
  DEFAULT_STYLE,
  type HouseStyle,
  nameOfReturn,
  newTrack,
  proposalEdits,
  proposeSort,
  rowColor,
} from './index';

const run = (s: SessionState, edits: readonly Change[]): SessionState => {
  const made = applyChanges(s, edits);
  if (!made.ok) throw new Error(`${made.code} ${made.id}`);
  return made.session;
};
const received = (names: readonly string[], style: HouseStyle): SessionState =>
  run(
    emptySession('s'),
    names.map((n, index) => ({
      kind: 'track.add',
      track: newTrack(n, `${n}.wav`, {}, style),
      parentId: ROOT,
      index,
    })),
  );
const applied = (s: SessionState, style: HouseStyle, overHand = false): SessionState => {
  const proposal = proposeSort(s, style, { overHand });
  return run(s, proposalEdits(s, style, proposal, new Set(proposal.rows.map((r) => r.trackId))));
};
const track = (s: SessionState, name: string): Track =>
  tracksInOrder(s).find((t) => t.name === name) as Track;
const STYLE: HouseStyle = {
  ...DEFAULT_STYLE,
  returns: [
    { key: 'plate', name: 'Plate', color: null, into: 'voices' },
    { key: 'hall', name: 'Hall', color: '#123456', into: null },
  ],
  sends: [
    { from: 'tracks', when: { part: ['snare'] }, to: 'hall', gainDb: -3, pan: null, before: true },
    { from: 'tracks', when: { family: ['drums'] }, to: 'hall', gainDb: -20, pan: 0, before: false },
    { from: 'sums', when: { folder: ['voices'] }, to: 'plate', gainDb: -12, pan: null, before: false },
  ],
};
const send = (busId: string, gainDb: number, pan: number | null, before: boolean) => ({
  busId,
  gainDb,
  pan,
  before,
});

it('each track sends what the first rule says that it meets, sums what is said of them; a return is made where something is sent', () => {
  const s = applied(received(['Kick', 'Snare', 'Bass'], STYLE), STYLE);
  expect(track(s, 'Snare').sends).toEqual([send('return-hall', -3, null, true)]);
  expect(track(s, 'Kick').sends).toEqual([send('return-hall', -20, 0, false)]);
  expect(track(s, 'Bass').sends).toEqual([]);
  expect(s.buses['return-hall']).toMatchObject({
    name: 'Hall',
    color: '#123456',
    kind: 'return',
    outputBusId: null,
  });
  expect(s.buses['return-plate']).toBeUndefined();
  expect([nameOfReturn(STYLE, 'return-hall'), nameOfReturn(STYLE, 'bus-drums')]).toEqual(['Hall', null]);
});
it('a send that would come back to where it began is left out, and the return goes to the mix bus', () => {
  // The voices send to the plate, and the plate feeds the voices.
  const s = applied(received(['Vox'], STYLE), STYLE);
  expect(s.buses['bus-voices']?.sends).toEqual([send('return-plate', -12, null, false)]);
  expect(s.buses['return-plate']).toMatchObject({ outputBusId: null, color: STYLE.rowColors.return });
});
it('what a person sends is kept; what they send beside it too; over it only when asked', () => {
  const first = applied(received(['Kick', 'Snare'], STYLE), STYLE);
  const own = run(first, [
    {
      kind: 'bus.add',
      bus: { id: 'return-own-1', name: 'Mine', color: null, kind: 'return', outputBusId: null },
      index: 9,
    },
    {
      kind: 'track.change',
      id: 'Snare',
      fields: { sends: [send('return-own-1', 0, null, false)], byHand: ['sends'] },
    },
  ]);
  expect(track(applied(own, STYLE), 'Snare').sends).toEqual([send('return-own-1', 0, null, false)]);
  expect(track(applied(own, STYLE, true), 'Snare').sends).toEqual([
    send('return-own-1', 0, null, false),
    send('return-hall', -3, null, true),
  ]);
  expect(applied(own, DEFAULT_STYLE).busOrder).toEqual(['bus-drums', 'return-own-1']);
});
it('groups take who belongs in and let go who does not; one changed by hand stays', () => {
  const first = applied(received(['Kick', 'Snare', 'Hat'], DEFAULT_STYLE), DEFAULT_STYLE);
  expect(first.groups.map((g) => [g.id, g.trackIds])).toEqual([['group-kit', ['Kick', 'Snare', 'Hat']]]);
  const moved = run(first, [
    { kind: 'track.change', id: 'Hat', fields: { family: 'percussion', byHand: ['family'] } },
  ]);
  expect(
    proposeSort(moved, DEFAULT_STYLE)
      .rows.filter((r) => r.regroups)
      .map((r) => r.trackId),
  ).toEqual(['Hat']);
  expect(applied(moved, DEFAULT_STYLE).groups[0]?.trackIds).toEqual(['Kick', 'Snare']);
  const hand = run(first, [
    {
      kind: 'groups.set',
      groups: first.groups.map((g) => ({ ...g, trackIds: ['Kick', 'Hat'], gainDb: -2, byHand: true })),
    },
  ]);
  expect(applied(hand, DEFAULT_STYLE).groups).toEqual(hand.groups);
  expect(applied(hand, DEFAULT_STYLE, true).groups).toMatchObject([
    { trackIds: ['Kick', 'Snare', 'Hat'], gainDb: -2, byHand: false },
  ]);
  // Fewer than two are no group.
  expect(applied(received(['Kick', 'Bass'], DEFAULT_STYLE), DEFAULT_STYLE).groups).toEqual([]);
  expect(applied(first, { ...DEFAULT_STYLE, groups: [] }).groups).toEqual([]);
});
it('returns, the mix bus and sections have the colours of their kind, or of a rule', () => {
  const ruled: HouseStyle = {
    ...DEFAULT_STYLE,
    rules: [
      {
        name: 'Choruses',
        on: true,
        when: { all: [{ row: ['section'] }, { nameHas: ['chorus'] }] },
        then: { color: '#a34a22' },
      },
    ],
  };
  expect([
    rowColor(ruled, 'section', 'Chorus 2'),
    rowColor(ruled, 'section', 'Verse'),
    rowColor(ruled, 'return', 'Chorus'),
    rowColor(ruled, 'mix-bus', 'Mix bus'),
  ]).toEqual(['#a34a22', ruled.rowColors.section, ruled.rowColors.return, ruled.rowColors['mix-bus']]);
});
