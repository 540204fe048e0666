import { readNames } from '../naming';
import { plainTrack } from '../../../tests/support/random-edits';
import {
  applyChanges,
  canSplit,
  commonName,
  emptySession,
  joinEdits,
  leftFirst,
  pairFault,
  ROOT,
  sidesOf,
  splitEdits,
  type Change,
  type SessionState,
  type Track,
  tracksInOrder,
} from './index';

const track = (id: string, fields: Partial<Track> = {}): Track => ({
  ...plainTrack(id),
  recordingId: id,
  ...fields,
});
const made = (tracks: readonly Track[]): SessionState =>
  apply(
    emptySession('s'),
    tracks.map((t, index) => ({ kind: 'track.add', track: t, parentId: ROOT, index })),
  );
function apply(s: SessionState, edits: readonly Change[]): SessionState {
  const outcome = applyChanges(s, edits);
  if (!outcome.ok) throw new Error(`${outcome.code} ${outcome.id}`);
  return outcome.session;
}
const mono = () => ({ sampleRateHz: 48_000, channels: 1 });

it.each([
  ['Gtr dbl L.wav', 'Gtr dbl R.wav', 'Gtr dbl'],
  ['OHL.wav', 'OHR.wav', 'OH'],
  ['Piano_Left', 'Piano_Right', 'Piano'],
  ['L Room.wav', 'R Room.wav', 'Room'],
  ['Hall', 'Hail', 'Hal'],
  ['Overhead Left', 'Overhead Right', 'Overhead'],
  ['Amp L 2', 'Amp R 2', 'Amp 2'],
  ['L', 'R', 'L'],
  ['Choir (L).wav', 'Choir (R).wav', 'Choir'],
  ['Room_L_2', 'Room_R_2', 'Room_2'],
  ['Kick', 'Kick', 'Kick'],
])('%s and %s are %s together', (a, b, together) => expect(commonName(a, b)).toBe(together));

it('only two mono sounds of one rate and level are a pair', () => {
  const [a, b] = [track('a'), track('b')];
  expect(pairFault(a, b, mono)).toBeNull();
  expect(pairFault(a, a, mono)).toBe('same');
  expect(pairFault(a, track('b', { tiedTo: 'bars' }), mono)).toBe('notes');
  expect(pairFault(a, b, (id) => (id === 'a' ? mono() : undefined))).toBe('not-ready');
  expect(pairFault(a, b, () => ({ sampleRateHz: 48_000, channels: 2 }))).toBe('channels');
  expect(
    pairFault(track('a', { monoFrom: 'left' }), track('b', { monoFrom: 'left' }), () => ({
      sampleRateHz: 48_000,
      channels: 2,
    })),
  ).toBeNull();
  expect(pairFault(a, b, (id) => ({ sampleRateHz: id === 'a' ? 44_100 : 48_000, channels: 1 }))).toBe('rate');
  expect(pairFault(a, track('b', { gainDb: -3 }), mono)).toBe('level');
});
it('knows the left one by side, then by pan, then by order', () => {
  const first = (x: Partial<Track>, y: Partial<Track>, said?: string[]): string =>
    leftFirst(track('x', x), track('y', y), said ? readNames(said) : [])[0].id;
  expect([
    first({ side: 'right' }, { side: 'left' }),
    first({ side: 'left', pan: 1 }, { side: 'right', pan: -1 }),
    first({ pan: 0.5 }, { pan: -0.5 }),
    first({}, {}),
    first({ receivedName: 'OHR.wav' }, { receivedName: 'OHL.wav' }, ['OHR.wav', 'OHL.wav']),
  ]).toEqual(['y', 'x', 'y', 'x', 'y']);
});
it('joined and split again stands where it stood, and one undo leads back', () => {
  const left = track('l', {
    name: 'Piano L',
    receivedName: 'Pno L.wav',
    side: 'left',
    pan: -1,
    startFrames: 40,
    color: '#112233',
    byHand: ['pan', 'name'],
  });
  const right = track('r', {
    name: 'Piano R',
    receivedName: 'Pno R.wav',
    side: 'right',
    pan: 1,
    inverted: true,
  });
  const start = made([left, track('other'), right]);
  const sides = sidesOf(left, right);
  const joined = apply(
    start,
    joinEdits(left, right, {
      recordingId: 'j',
      receivedName: commonName(left.receivedName, right.receivedName),
    }),
  );
  expect(tracksInOrder(joined).map((t) => t.id)).toEqual(['l', 'other']);
  expect(joined.nodes['l']).toMatchObject({
    recordingId: 'j',
    receivedName: 'Pno',
    name: 'Piano',
    side: null,
    pan: 0,
    startFrames: 0,
    color: '#112233',
    byHand: ['name'],
  });
  const again = apply(joined, splitEdits(joined, joined.nodes['l'] as Track, sides));
  expect(
    tracksInOrder(again).map((t) => [t.id, t.recordingId, t.name, t.pan, t.startFrames, t.inverted]),
  ).toEqual([
    ['l', 'l', 'Piano L', -1, 40, false],
    ['r', 'r', 'Piano R', 1, 0, true],
    ['other', 'other', 'other', 0, 0, false],
  ]);
  const outcome = applyChanges(start, joinEdits(left, right, { recordingId: 'j', receivedName: 'Pno' }));
  expect(outcome.ok && apply(outcome.session, outcome.inverse)).toEqual(start);
});
it('a stereo file becomes its two sides, whose names say which', () => {
  const keys = track('k', { name: 'Keys', receivedName: 'Keys take 2.wav', startFrames: 7, sends: [] });
  const split = apply(made([keys]), splitEdits(made([keys]), keys, null));
  expect(
    tracksInOrder(split).map((t) => [
      t.id,
      t.recordingId,
      t.name,
      t.receivedName,
      t.monoFrom,
      t.pan,
      t.side,
      t.startFrames,
    ]),
  ).toEqual([
    ['k', 'k', 'Keys L', 'Keys take 2 left.wav', 'left', -1, 'left', 7],
    ['k-2', 'k', 'Keys R', 'Keys take 2 right.wav', 'right', 1, 'right', 7],
  ]);
  expect([
    canSplit(keys, { sampleRateHz: 48_000, channels: 2 }),
    canSplit(keys, { sampleRateHz: 48_000, channels: 1 }),
    canSplit(track('k', { monoFrom: 'left' }), { sampleRateHz: 48_000, channels: 2 }),
  ]).toEqual([true, false, false]);
});
