import { plainTrack, randomEdit, randomMove } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import {
  applyChanges,
  type Change,
  difference,
  type Edit,
  emptySession,
  type LogEntry,
  ROOT,
  SONG_ID,
  type SessionState,
  stateAt,
  summarizeEdits,
} from './index';

function wander(seed: number, steps: number, from: SessionState = emptySession('Song')): SessionState {
  const random = createRandom(seed);
  let state = from;
  for (let i = 0; i < steps; i++) {
    const outcome = applyChanges(state, [(random() < 0.7 ? randomMove : randomEdit)(random, state)]);
    if (outcome.ok) state = outcome.session;
  }
  return state;
}
const applied = (from: SessionState, changes: readonly Change[]): SessionState => {
  const outcome = applyChanges(from, changes);
  if (!outcome.ok) throw new Error(outcome.code);
  return outcome.session;
};

const editsOf = (from: SessionState, ...changes: Change[]): readonly Edit[] => {
  const outcome = applyChanges(from, changes);
  if (!outcome.ok) throw new Error(outcome.code);
  return outcome.edits;
};

describe('the difference of two states', () => {
  it('leads from one to the other and back, whatever they are (60 pairs, seeded)', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const from = wander(seed, 150);
      const to = seed % 2 === 0 ? wander(1000 + seed, 150) : wander(2000 + seed, 40, from);
      const edits = difference(from, to);
      expect(applied(from, edits)).toEqual(to);
      expect(applied(to, difference(to, from))).toEqual(from);
    }
  });
  it('is nothing between equal states, even with keys in another order', () => {
    const state = wander(5, 200);
    const shuffled = JSON.parse(
      JSON.stringify(state, (_k, v: unknown) =>
        v && typeof v === 'object' && !Array.isArray(v) ? Object.fromEntries(Object.entries(v).reverse()) : v,
      ),
    ) as SessionState;
    expect(difference(state, shuffled)).toEqual([]);
  });
  it('touches only what differs', () => {
    const from = applied(emptySession('Song'), [
      { kind: 'track.add', track: plainTrack('a'), parentId: ROOT, index: 0 },
      { kind: 'track.add', track: plainTrack('b'), parentId: ROOT, index: 1 },
    ]);
    const to = applied(from, [{ kind: 'track.change', id: 'b', fields: { name: 'Boom' } }]);
    expect(difference(from, to)).toEqual([{ kind: 'patch', of: 'track', id: 'b', fields: { name: 'Boom' } }]);
    expect(summarizeEdits(from, difference(from, to))).toMatchObject({
      renamed: [{ from: 'b', to: 'Boom' }],
      changed: 1,
      moved: 0,
      tracksRemoved: 0,
      map: null,
    });
  });
});

describe('a state of the past', () => {
  type Line = LogEntry & { readonly edits: readonly Edit[] };
  const arrival = (revision: number, id: string): Line => ({
    revision,
    action: 'do',
    of: null,
    undoable: false,
    edits: editsOf(emptySession(''), { kind: 'track.add', track: plainTrack(id), parentId: ROOT, index: 99 }),
  });
  const rename = (revision: number, id: string, name: string): Line => ({
    revision,
    action: 'do',
    of: null,
    undoable: true,
    edits: [{ kind: 'patch', of: 'track', id, fields: { name } }],
  });
  const log: readonly Line[] = [
    {
      revision: 1,
      action: 'do',
      of: null,
      undoable: false,
      edits: [{ kind: 'patch', of: 'song', id: SONG_ID, fields: { name: 'Song' } }],
    },
    arrival(2, 'a'),
    rename(3, 'a', 'Kick'),
    arrival(4, 'b'),
    rename(5, 'b', 'Snare'),
    {
      revision: 6,
      action: 'undo',
      of: 5,
      undoable: true,
      edits: [{ kind: 'patch', of: 'track', id: 'b', fields: { name: 'b' } }],
    },
  ];
  const names = (revision: number): string[] =>
    (stateAt(log, revision).children[ROOT] ?? []).map((id) => stateAt(log, revision).nodes[id]?.name ?? '');
  it('is what was done up to then; what arrived later is there as it came', () => {
    expect(names(3)).toEqual(['Kick', 'b']);
    expect(names(5)).toEqual(['Kick', 'Snare']);
    expect(names(6)).toEqual(['Kick', 'b']);
  });
  it('as received is revision 0: everything that came, nothing that was done', () => {
    expect(names(0)).toEqual(['a', 'b']);
    expect(stateAt(log, 0).name).toBe('Song');
  });
  it('a log that does not replay is said, not guessed at', () => {
    expect(() => stateAt([rename(1, 'nobody', 'x')], 1)).toThrow(
      'revision 1 does not replay: edit.unknown_id nobody',
    );
  });
});
