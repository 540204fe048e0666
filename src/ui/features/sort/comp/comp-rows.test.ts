import { plainTrack } from '../../../../../tests/support/random-edits';
import {
  applyChanges,
  type Change,
  emptySession,
  isTrack,
  type SessionState,
  type Track,
} from '@/core/session';
import { compRows, soundingNumber, soundingPieces, takeTitle } from './comp-rows';

const made = (s: SessionState, changes: readonly Change[]): SessionState => {
  const done = applyChanges(s, changes);
  if (!done.ok) throw new Error(`${done.code} ${done.id}`);
  return done.session;
};
const ids = ['a', 'b', 'c', 'alone'];
const SESSION = made(emptySession('s'), [
  ...ids.map((id, index): Change => ({ kind: 'track.add', track: plainTrack(id), parentId: 'root', index })),
  {
    kind: 'lanes.pack',
    id: 'a',
    lanes: ['a', 'b', 'c'].map((trackId, i) => ({ trackId, takeNumber: i + 1 })),
  },
]);
const packed = (s: SessionState): Track => {
  const node = s.nodes.a;
  if (!isTrack(node)) throw new Error('no track');
  return node;
};

it('only packed tracks are rows; their takes stand under them by number, those put aside last', () => {
  expect(compRows(SESSION, new Set()).map((r) => r.id)).toEqual(['a']);
  const rows = compRows(SESSION, new Set(['a', 'alone']));
  expect(rows.map((r) => r.lane?.takeNumber ?? null)).toEqual([null, 1, 2, 3]);
  const first = rows[1]?.lane?.id as string;
  const aside = made(SESSION, [{ kind: 'patch', of: 'lane', id: first, fields: { takeAside: true } }]);
  expect(compRows(aside, new Set(['a'])).map((r) => r.lane?.takeNumber ?? null)).toEqual([null, 2, 3, 1]);
  // Each row has an id of its own, and draws its own recording from end to end.
  expect(new Set(rows.map((r) => r.id)).size).toBe(4);
  expect(rows.slice(1).map((r) => r.drawn.recordingId)).toEqual(['r-a', 'r-b', 'r-c']);
});

it('what sounds at a frame is told by the number of the take; silenced pieces are none', () => {
  const track = packed(SESSION);
  const [one, two] = [track.laneId, track.otherLanes[0]?.id as string];
  const [clip] = track.clips;
  if (!clip) throw new Error('no clip');
  const cut = made(SESSION, [
    {
      kind: 'track.cut',
      id: 'a',
      clips: [
        { ...clip, id: 'x', laneId: one, toFrames: 100 },
        { ...clip, id: 'y', laneId: two, fromFrames: 100, toFrames: 200 },
        { ...clip, id: 'z', laneId: one, fromFrames: 200, toFrames: 300, off: true },
      ],
    },
  ]);
  const lengths = new Map(ids.map((id) => [`r-${id}`, 1000]));
  const pieces = soundingPieces(packed(cut), lengths);
  expect([50, 150, 250].map((f) => soundingNumber(packed(cut), pieces, f))).toEqual([1, 2, null]);
});

it('a take is called as a person says, else by its file', () => {
  const [lane] = packed(SESSION).otherLanes;
  if (!lane) throw new Error('no lane');
  expect([takeTitle(lane), takeTitle({ ...lane, takeName: 'the brave one' })]).toEqual([
    'b.wav',
    'the brave one',
  ]);
});
