import { plainTrack } from '../../../tests/support/random-edits';
import type { RecordingView } from '@/contracts';
import { applyChanges, type Change, emptySession, isTrack, type Lane, wholeClip } from '@/core/session';
import { type ClipHandle, handleChanges, handlesOf, heldTo } from './clip-handles';

const LENGTH = 48_000;
const recordings = ['a', 'b', 'c'].map(
  (id) => ({ id: `r-${id}`, sessionFrames: LENGTH }) as unknown as RecordingView,
);
const cut = (id: string, from: number): Change => ({
  kind: 'track.cut',
  id,
  clips: [
    { ...wholeClip(`lane-${id}`)[0], id: `${id}-1`, toFrames: 10_000, fadeOutFrames: 480 },
    { ...wholeClip(`lane-${id}`)[0], id: `${id}-2`, fromFrames: from, fadeInFrames: 480 },
  ],
});
const made = applyChanges(emptySession('s'), [
  { kind: 'session.rate', sampleRateHz: 48_000 },
  ...['a', 'b', 'c'].map((id, index) => ({
    kind: 'track.add' as const,
    ...{ track: { ...plainTrack(id), recordingId: `r-${id}` }, parentId: 'root', index },
  })),
  cut('a', 20_000),
  // Nearly the same place; and elsewhere.
  cut('b', 20_100),
  cut('c', 30_000),
  {
    kind: 'groups.set',
    groups: [{ id: 'g', name: 'Kit', trackIds: ['a', 'b', 'c'], on: true, gainDb: 0, byHand: false }],
  },
]);
if (!made.ok) throw new Error(made.code);
const { session } = made;
const a = session.nodes.a;
if (!isTrack(a)) throw new Error('no track');
const hand = { track: a, lengthOf: (_: Lane) => LENGTH };

it('edges and ends of fades of what is in sight can be taken hold of', () => {
  const all = handlesOf(hand, 0, LENGTH).map((h) => [h.kind, h.at]);
  expect(all).toEqual([
    ['edge', 0],
    ['edge', 10_000],
    ['fade-in', 0],
    ['fade-out', 9520],
    ['edge', 20_000],
    ['edge', LENGTH],
    ['fade-in', 20_480],
    ['fade-out', LENGTH],
  ]);
  expect(handlesOf(hand, 19_000, 20_100).map((h) => [h.kind, h.at])).toEqual([['edge', 20_000]]);
});

it('a fade stays inside of its piece', () => {
  const out: ClipHandle = { kind: 'fade-out', at: 9520, within: 5000 };
  expect([-500, 12_000, 7000.4].map((to) => heldTo(hand, out, to))).toEqual([0, 10_000, 7000]);
});

it('what a group has at the same place moves along, to the same frame; alone for a moment only the one', () => {
  const handle: ClipHandle = { kind: 'edge', at: 20_000, within: 30_000 };
  const request = { trackId: 'a', handle, to: 18_500, alone: false };
  const begins = (changes: readonly Change[]) =>
    changes.map((c) => (c.kind === 'track.cut' ? [c.id, c.clips[1]?.fromFrames] : null));
  expect(begins(handleChanges({ session, recordings }, request))).toEqual([
    ['a', 18_500],
    ['b', 18_500],
  ]);
  expect(begins(handleChanges({ session, recordings }, { ...request, alone: true }))).toEqual([
    ['a', 18_500],
  ]);
});

it('pulled over the gap two pieces are one again, and a fade is as long as it was pulled', () => {
  const edge: ClipHandle = { kind: 'edge', at: 20_000, within: 30_000 };
  const [whole] = handleChanges(
    { session, recordings },
    { trackId: 'a', handle: edge, to: 9000, alone: true },
  );
  expect(whole).toMatchObject({ kind: 'track.cut', clips: [{ fromFrames: null, toFrames: null }] });
  const fade: ClipHandle = { kind: 'fade-in', at: 20_480, within: 30_000 };
  const [faded] = handleChanges(
    { session, recordings },
    { trackId: 'a', handle: fade, to: 22_000, alone: true },
  );
  expect(faded).toMatchObject({ clips: [{}, { fromFrames: 20_000, fadeInFrames: 2000 }] });
});

it('microphones of a kit are cut as one without a group as well; a tom is not', () => {
  const kit = applyChanges(session, [
    { kind: 'groups.set', groups: [] },
    { kind: 'track.change', id: 'a', fields: { family: 'drums', part: 'kick' } },
    { kind: 'track.change', id: 'b', fields: { family: 'drums', part: 'overhead' } },
    cut('c', 20_000),
    { kind: 'track.change', id: 'c', fields: { family: 'drums', part: 'tom' } },
  ]);
  if (!kit.ok) throw new Error(kit.code);
  const handle: ClipHandle = { kind: 'edge', at: 20_000, within: 30_000 };
  const changes = handleChanges(
    { session: kit.session, recordings },
    { trackId: 'a', handle, to: 18_500, alone: false },
  );
  expect(changes.map((c) => 'id' in c && c.id)).toEqual(['a', 'b']);
});
