import { plainTrack } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import {
  applyChanges,
  emptySession,
  type Group,
  groupsOf,
  isTrack,
  levelDb,
  ROOT,
  type Change,
  type SessionState,
  type Track,
  withGroups,
} from './index';

const kit: Group = {
  id: 'kit',
  name: 'Kit',
  trackIds: ['kick', 'snare', 'hat', 'gone'],
  on: true,
  gainDb: 0,
  byHand: false,
};
const made = (
  groups: readonly Group[],
  fields: Readonly<Record<string, Partial<Track>>> = {},
): SessionState => {
  const outcome = applyChanges(emptySession('S'), [
    ...['kick', 'snare', 'hat', 'bass'].map((id, index): Change => ({
      kind: 'track.add',
      track: { ...plainTrack(id), ...fields[id] },
      parentId: ROOT,
      index,
    })),
    { kind: 'groups.set', groups },
  ]);
  if (!outcome.ok) throw new Error(outcome.code);
  return outcome.session;
};
const change = (id: string, fields: Partial<Track>): Change => ({ kind: 'track.change', id, fields });
const after = (session: SessionState, edits: readonly Change[]): Record<string, Track> => {
  const outcome = applyChanges(session, withGroups(session, edits));
  if (!outcome.ok) throw new Error(outcome.code);
  return Object.fromEntries(
    Object.values(outcome.session.nodes)
      .filter(isTrack)
      .map((t) => [t.id, t]),
  );
};

describe('edits of a group', () => {
  it('level, pan and place move by as much, mute is the same, all else is each its own', () => {
    const session = made([kit], {
      kick: { gainDb: -3, pan: 0 },
      snare: { gainDb: -6, pan: -0.25, startFrames: 480 },
    });
    const now = after(session, [
      change('kick', { gainDb: -1, pan: 0.5, startFrames: 100, muted: true, name: 'Boom', inverted: true }),
    ]);
    expect(now['kick']).toMatchObject({
      gainDb: -1,
      pan: 0.5,
      startFrames: 100,
      muted: true,
      name: 'Boom',
      inverted: true,
    });
    expect(now['snare']).toMatchObject({
      gainDb: -4,
      pan: 0.25,
      startFrames: 580,
      muted: true,
      name: 'snare',
      inverted: false,
    });
    expect(now['snare']?.byHand).toEqual(['gainDb', 'pan', 'startFrames', 'muted']);
    expect(now['bass']).toMatchObject({ gainDb: 0, muted: false, startFrames: 0 });
  });
  it('goes as far as all can, and takes what a list says by itself', () => {
    const session = made([kit], { kick: { pan: 0 }, snare: { pan: 0.75 }, hat: { pan: -0.5 } });
    expect(
      ['kick', 'snare', 'hat'].map((id) => after(session, [change('kick', { pan: 1 })])[id]?.pan),
    ).toEqual([0.25, 1, -0.25]);
    expect(
      ['kick', 'snare', 'hat'].map(
        (id) => after(session, [change('kick', { gainDb: 2 }), change('snare', { gainDb: 5 })])[id]?.gainDb,
      ),
    ).toEqual([2, 5, 2]);
  });
  it('a group put aside leaves its tracks alone; its level holds all the same', () => {
    const session = made([{ ...kit, on: false, gainDb: -4 }]);
    expect(withGroups(session, [change('kick', { gainDb: 3 })])).toEqual([change('kick', { gainDb: 3 })]);
    expect(levelDb(session, { id: 'kick', gainDb: -2 })).toBe(-6);
    expect(groupsOf(session, 'bass')).toEqual([]);
  });
  it('what is between the members never changes (500 random moves, seed 7)', () => {
    const random = createRandom(7);
    const session = made([kit], {
      snare: { gainDb: -9, pan: -0.4, startFrames: 77 },
      hat: { gainDb: 3, pan: 0.2 },
    });
    let state = session;
    const between = (s: SessionState, field: 'gainDb' | 'pan' | 'startFrames'): number[] =>
      ['snare', 'hat'].map((id) => (s.nodes[id] as Track)[field] - (s.nodes['kick'] as Track)[field]);
    for (let i = 0; i < 500; i++) {
      const id = ['kick', 'snare', 'hat'][Math.floor(random() * 3)] as string;
      const outcome = applyChanges(
        state,
        withGroups(state, [
          change(id, {
            gainDb: random() * 160 - 130,
            pan: random() * 2 - 1,
            startFrames: Math.floor(random() * 1000),
          }),
        ]),
      );
      if (!outcome.ok) throw new Error(outcome.code);
      state = outcome.session;
      for (const t of Object.values(state.nodes).filter(isTrack))
        expect(t.gainDb >= -120 && t.gainDb <= 24 && t.pan >= -1 && t.pan <= 1).toBe(true);
    }
    for (const field of ['gainDb', 'pan', 'startFrames'] as const)
      between(state, field).forEach((d, i) => expect(d).toBeCloseTo(between(session, field)[i] as number, 9));
  });
});
