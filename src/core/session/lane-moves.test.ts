import { plainTrack } from '../../../tests/support/random-edits';
import {
  applyChanges,
  type Change,
  emptySession,
  isEntire,
  lanesOf,
  packedName,
  type SessionState,
  type Track,
  wholeClip,
} from './index';

const done = (session: SessionState, ...changes: readonly Change[]): SessionState => {
  const made = applyChanges(session, changes);
  if (!made.ok) throw new Error(`${made.code} ${made.id}`);
  const back = applyChanges(made.session, made.inverse);
  expect(back.ok && back.session).toEqual(session);
  return made.session;
};
const SESSION = done(
  emptySession('Slip'),
  ...['a', 'b', 'c'].map((id): Change => ({
    kind: 'track.add',
    track: { ...plainTrack(id), name: `Vox ${id}`, startFrames: id === 'b' ? 480 : 0 },
    parentId: 'root',
    index: 9,
  })),
);
const PACK: Change = {
  kind: 'lanes.pack',
  id: 'b',
  lanes: [
    { trackId: 'a', takeNumber: 1 },
    { trackId: 'b', takeNumber: 4 },
  ],
};
const track = (s: SessionState, id: string): Track => s.nodes[id] as Track;

it('packs tracks as lanes of the one that sounds, in one step', () => {
  const packed = done(SESSION, PACK);
  expect(packed.children.root).toEqual(['b', 'c']);
  expect(lanesOf(track(packed, 'b')).map((l) => [l.recordingId, l.takeNumber, l.startFrames])).toEqual([
    ['r-b', 4, 480],
    ['r-a', 1, 0],
  ]);
  expect(track(packed, 'b').clips).toEqual(track(SESSION, 'b').clips);
});

it('what is asked of a track is answered for the take that sounds', () => {
  const packed = done(SESSION, PACK);
  const other = done(packed, {
    kind: 'track.cut',
    id: 'b',
    clips: wholeClip(track(packed, 'b').otherLanes[0]?.id ?? ''),
  });
  expect([
    track(packed, 'b').recordingId,
    track(other, 'b').recordingId,
    track(other, 'b').takeNumber,
  ]).toEqual(['r-b', 'r-a', 1]);
  expect([isEntire(track(packed, 'b')), isEntire(track(other, 'b'))]).toEqual([true, true]);
});

it('unpacks them: each a track again, as it was recorded', () => {
  const again = done(done(SESSION, PACK), { kind: 'lanes.unpack', id: 'b' });
  expect(again.children.root).toEqual(['b', 'r-a', 'c']);
  expect(
    ['b', 'r-a'].map((id) => [
      track(again, id).name,
      track(again, id).recordingId,
      track(again, id).startFrames,
    ]),
  ).toEqual([
    ['Vox b 4', 'r-b', 480],
    ['Vox b 1', 'r-a', 0],
  ]);
  expect(track(again, 'r-a').clips).toEqual(wholeClip(track(again, 'r-a').laneId));
});

it('packs what has lanes already, and numbers those on', () => {
  const packed = done(done(SESSION, PACK), {
    kind: 'lanes.pack',
    id: 'c',
    lanes: [
      { trackId: 'b', takeNumber: 1 },
      { trackId: 'c', takeNumber: 2 },
    ],
  });
  expect(lanesOf(track(packed, 'c')).map((l) => [l.recordingId, l.takeNumber])).toEqual([
    ['r-c', 2],
    ['r-b', 1],
    ['r-a', 3],
  ]);
});

it.each([
  ['one alone', [{ trackId: 'a', takeNumber: 1 }]],
  [
    'one twice',
    [
      { trackId: 'a', takeNumber: 1 },
      { trackId: 'a', takeNumber: 2 },
    ],
  ],
  [
    'two of one number',
    [
      { trackId: 'a', takeNumber: 1 },
      { trackId: 'b', takeNumber: 1 },
    ],
  ],
  [
    'what is not there',
    [
      { trackId: 'a', takeNumber: 1 },
      { trackId: 'x', takeNumber: 2 },
    ],
  ],
])('refuses %s', (_, lanes) => {
  expect(applyChanges(SESSION, [{ kind: 'lanes.pack', id: 'a', lanes }]).ok).toBe(false);
});

it('a track is not added again while its lane is on another', () => {
  const packed = done(SESSION, PACK);
  const again: Change = { kind: 'track.add', track: plainTrack('a'), parentId: 'root', index: 0 };
  expect(applyChanges(packed, [again])).toMatchObject({ ok: false, code: 'edit.id_taken' });
});

it.each([
  [['Lead Vocal 1', 'Lead Vocal 2', 'Lead Vocal 3'], 'Lead Vocal'],
  [['Lead Vocal', 'Lead Vocal alt'], 'Lead Vocal'],
  [['Vox', 'Vox'], 'Vox'],
  [['Lead Vox tk1', 'Lead Vox tk2'], 'Lead Vox'],
  [['Fiddle take 1', 'Fiddle take 2'], 'Fiddle'],
  [['Part', 'Part 2'], 'Part'],
  [['1', '2'], '1'],
  [[], ''],
])('%j become %j', (names, name) => {
  expect(packedName(names)).toBe(name);
});
