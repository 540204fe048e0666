import { plainTrack } from '../../../tests/support/random-edits';
import { applyChanges } from './moves';
import { withGroups } from './groups';
import { emptySession, isTrack, type SessionState, type Track } from './state';
import { movableTracks, movedParts, moveInTime, takenBack } from './time-moves';

const made = (): SessionState => {
  const ids = ['kick', 'snare', 'vox', 'keys'];
  const tracks = Object.fromEntries(
    ids.map((id) => [id, { ...plainTrack(id), ...(id === 'keys' ? { tiedTo: 'bars' as const } : {}) }]),
  );
  return {
    ...emptySession('Low Water'),
    nodes: {
      ...tracks,
      drums: { kind: 'folder', id: 'drums', name: 'Drums', color: null, busId: null } as never,
    },
    children: { root: ['drums', 'vox', 'keys'], drums: ['kick', 'snare'] },
  };
};
const done = (s: SessionState, changes: Parameters<typeof applyChanges>[1]): SessionState => {
  const result = applyChanges(s, changes);
  if (!result.ok) throw new Error(result.code);
  return result.session;
};
const track = (s: SessionState, id: string): Track => {
  const node = s.nodes[id];
  if (!isTrack(node)) throw new Error(id);
  return node;
};

it('moves what lies in a folder in step, with its pieces; notes tied to bars stay', () => {
  const s = made();
  const cut = done(s, [
    {
      kind: 'track.cut',
      id: 'kick',
      clips: track(s, 'kick').clips.map((c) => ({ ...c, fromFrames: 100, toFrames: 900, slipFrames: 7 })),
    },
  ]);
  const moved = done(cut, moveInTime(movableTracks(cut, ['drums']), 480));
  expect(track(moved, 'kick')).toMatchObject({ startFrames: 480, byHand: ['startFrames'] });
  expect(track(moved, 'kick').clips).toMatchObject([{ fromFrames: 580, toFrames: 1380, slipFrames: 7 }]);
  expect([track(moved, 'snare').startFrames, track(moved, 'vox').startFrames]).toEqual([480, 0]);
  expect(movableTracks(moved, null).map((t) => t.id)).toEqual(['kick', 'snare', 'vox']);

  expect(movedParts(moved)).toEqual([
    { trackId: 'kick', name: 'kick', clipId: null, frames: 480, fromFrames: 0 },
    { trackId: 'kick', name: 'kick', clipId: track(s, 'kick').clips[0]?.id, frames: 7, fromFrames: 580 },
    { trackId: 'snare', name: 'snare', clipId: null, frames: 480, fromFrames: 0 },
  ]);
  const back = done(moved, takenBack(moved, movedParts(moved)));
  expect(movedParts(back)).toEqual([]);
  expect(track(back, 'kick').clips).toMatchObject([{ fromFrames: 100, toFrames: 900, slipFrames: 0 }]);
  const piece = movedParts(moved).filter((p) => p.clipId !== null);
  expect(movedParts(done(moved, takenBack(moved, piece))).map((p) => p.frames)).toEqual([480, 480]);
});

it('moves the rest of a group as far, and lets go what is gone since', () => {
  const s = done(made(), [
    {
      kind: 'groups.set',
      groups: [{ id: 'g', name: 'G', trackIds: ['snare', 'vox'], on: true, gainDb: 0, byHand: true }],
    },
  ]);
  const moved = done(s, withGroups(s, moveInTime(movableTracks(s, ['snare']), -96)));
  expect(movedParts(moved).map((p) => [p.trackId, p.frames])).toEqual([
    ['snare', -96],
    ['vox', -96],
  ]);
  const parts = movedParts(moved);
  const without = done(moved, [{ kind: 'track.remove', id: 'vox' }]);
  expect(takenBack(without, parts)).toHaveLength(1);
  expect(moveInTime(movableTracks(s, null), 0)).toEqual([]);
});
