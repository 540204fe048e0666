import { plainTrack } from '../../../tests/support/random-edits';
import {
  applyChanges,
  type Change,
  type Comp,
  emptySession,
  isTrack,
  type SessionState,
  type Track,
  wholeClip,
} from '../session';
import { compInUse, newVersion, removeVersion, switchTo } from './versions';

const made = (s: SessionState, changes: readonly Change[]): SessionState => {
  const done = applyChanges(s, changes);
  if (!done.ok) throw new Error(`${done.code} ${done.id}`);
  return done.session;
};
const vox = (s: SessionState): Track => {
  const node = s.nodes.a;
  if (!isTrack(node)) throw new Error('no track');
  return node;
};
const START = made(emptySession('s'), [
  { kind: 'track.add', track: plainTrack('a'), parentId: 'root', index: 0 },
  { kind: 'track.add', track: plainTrack('b'), parentId: 'root', index: 1 },
  {
    kind: 'lanes.pack',
    id: 'a',
    lanes: [
      { trackId: 'a', takeNumber: 1 },
      { trackId: 'b', takeNumber: 2 },
    ],
  },
]);
const cut = (s: SessionState, laneId: string): SessionState =>
  made(s, [{ kind: 'track.cut', id: 'a', clips: wholeClip(laneId) }]);
const [ONE, TWO] = [vox(START).laneId, vox(START).otherLanes[0]?.id as string];

it('a second version begins as the first; each keeps what was done while it sounded', () => {
  const two = made(START, newVersion(vox(START)));
  expect(vox(two).comps.map((c) => c.name)).toEqual(['Version 1', 'Version 2']);
  expect(compInUse(vox(two))?.name).toBe('Version 2');
  const changed = cut(two, TWO);
  const [first, second] = vox(changed).comps as unknown as [Comp, Comp];
  const back = made(changed, switchTo(vox(changed), first.id));
  expect(vox(back).clips[0]?.laneId).toBe(ONE);
  const again = made(back, switchTo(vox(back), second.id));
  expect(vox(again).clips[0]?.laneId).toBe(TWO);
  expect(switchTo(vox(again), second.id)).toEqual([]);
  expect(switchTo(vox(again), 'gone')).toEqual([]);
});

it('what sounds and is no version is kept as one before another sounds', () => {
  const two = made(START, newVersion(vox(START)));
  const loose = cut(made(two, [{ kind: 'track.change', id: 'a', fields: { compId: null } }]), TWO);
  const back = made(loose, switchTo(vox(loose), (vox(loose).comps[0] as Comp).id));
  expect(vox(back).comps.map((c) => [c.name, c.clips[0]?.laneId])).toEqual([
    ['Version 1', ONE],
    ['Version 2', ONE],
    ['Version 3', TWO],
  ]);
  expect(vox(back).clips[0]?.laneId).toBe(ONE);
});

it('what sounds cannot be removed as long as there are others; the last one can, and goes on sounding', () => {
  const two = made(START, newVersion(vox(START)));
  const [first, second] = vox(two).comps as unknown as [Comp, Comp];
  expect(removeVersion(vox(two), second.id)).toEqual([]);
  const one = made(two, removeVersion(vox(two), first.id));
  const none = made(one, removeVersion(vox(one), second.id));
  expect([vox(none).comps, vox(none).compId, vox(none).clips]).toEqual([[], null, vox(two).clips]);
});

it('versions go along when the track begins elsewhere or the rate changes, and end when it is unpacked; all of it goes back', () => {
  const stretch = { ...wholeClip(ONE)[0], id: 'x', fromFrames: 4800, toFrames: 9600, fadeInFrames: 480 };
  const cutOne = made(START, [{ kind: 'track.cut', id: 'a', clips: [stretch] }]);
  const two = made(cutOne, newVersion(vox(cutOne)));
  const moved = made(two, [{ kind: 'track.change', id: 'a', fields: { startFrames: 1000 } }]);
  expect(vox(moved).comps.map((c) => c.clips[0]?.fromFrames)).toEqual([5800, 5800]);
  const unpacking = applyChanges(two, [{ kind: 'lanes.unpack', id: 'a' }]);
  if (!unpacking.ok) throw new Error(unpacking.code);
  expect([vox(unpacking.session).comps, vox(unpacking.session).compId]).toEqual([[], null]);
  expect(vox(made(unpacking.session, unpacking.inverse))).toEqual(vox(two));
});
