import { plainTrack, randomEdit, randomMove } from '../../../tests/support/random-edits';
import { createRandom } from '../units';
import {
  applyChanges,
  applyEdits,
  type Change,
  emptySession,
  KINDS,
  recordsIn,
  recordsOf,
  RECORD_KINDS,
  hasLoop,
  listRows,
  NOWHERE,
  redoable,
  ROOT,
  undoable,
  type Edit,
  type LogEntry,
  type SessionState,
  type Track,
} from './index';

const applyOne = (s: SessionState, change: Change) => applyChanges(s, [change]);

/** Every node stands in exactly one place, and every routing leads somewhere. */
function assertSound(s: SessionState): void {
  const placed = Object.values(s.children).flat();
  expect([...placed].sort()).toEqual(Object.keys(s.nodes).sort());
  expect(listRows(s)).toHaveLength(placed.length);
  for (const n of Object.values(s.nodes))
    if (n.busId !== null && n.busId !== NOWHERE) expect(s.buses[n.busId]).toBeDefined();
  for (const b of Object.values(s.buses)) expect(hasLoop(s.buses, b.id)).toBe(false);
  expect([...s.busOrder].sort()).toEqual(Object.keys(s.buses).sort());
}

describe('edits', () => {
  it.each([1, 2, 3, 4])('3000 random moves and edits undo to deep equality, seed %i', (seed) => {
    const random = createRandom(seed);
    let state = emptySession('Song');
    const first = state;
    const undo: (readonly Edit[])[] = [];
    for (let i = 0; i < 3000; i++) {
      const change: Change = (random() < 0.5 ? randomMove : randomEdit)(random, state);
      const before = JSON.stringify(state);
      const outcome = applyChanges(state, [change]);
      expect(JSON.stringify(state)).toBe(before);
      if (!outcome.ok) continue;
      state = outcome.session;
      undo.unshift(outcome.inverse);
      if (i % 50 === 0) assertSound(state);
    }
    expect(undo.length).toBeGreaterThan(900);
    const back = applyEdits(state, undo.flat());
    expect(back.ok && back.session).toEqual(first);
  });
  const mustBeAllowed = (state: SessionState, kinds: Set<string>): void => {
    for (const kind of RECORD_KINDS)
      for (const record of recordsIn(recordsOf(state), kind)) {
        kinds.add(kind);
        for (const [name, { schema }] of Object.entries(KINDS[kind].fields).filter(
          // Recordings of tests have short names; a lane made while there is no track refers to none, nor a clip without a lane.
          ([field, f]) =>
            f.column !== 'uuid' && !(['trackId', 'laneId'].includes(field) && record[field] === null),
        ))
          expect([kind, name, record[name], schema.isValidSync(record[name], { strict: true })]).toEqual([
            kind,
            name,
            record[name],
            true,
          ]);
      }
  };
  it('a random edit never leaves a record that its kind does not allow (seed 11)', () => {
    const random = createRandom(11);
    let state = emptySession('Song');
    const kinds = new Set<string>();
    for (let i = 0; i < 4000; i++) {
      const outcome = applyChanges(state, [(random() < 0.3 ? randomMove : randomEdit)(random, state)]);
      if (outcome.ok) state = outcome.session;
      if (i % 400 === 399) mustBeAllowed(state, kinds);
    }
    expect(kinds.size).toBeGreaterThan(6);
  });
  it('keeps markers in order of time, each id once', () => {
    const set = applyOne(emptySession('x'), {
      kind: 'markers.set',
      markers: [
        { id: 'b', name: 'B', seconds: 4 },
        { id: 'a', name: 'A', seconds: -1 },
      ],
    });
    expect(set.ok && set.session.markers.map((m) => m.id)).toEqual(['a', 'b']);
    expect(
      set.ok &&
        applyOne(set.session, {
          kind: 'markers.set',
          markers: [
            { id: 'a', name: 'A', seconds: 0 },
            { id: 'a', name: 'B', seconds: 1 },
          ],
        }),
    ).toEqual({ ok: false, code: 'edit.id_taken', id: 'a' });
  });
  it('survives JSON, as the log keeps it (seed 8)', () => {
    const random = createRandom(8);
    let a = emptySession('Song');
    let b = emptySession('Song');
    for (let i = 0; i < 800; i++) {
      const x = applyOne(a, (random() < 0.5 ? randomMove : randomEdit)(random, a));
      if (!x.ok) continue;
      const y = applyEdits(b, JSON.parse(JSON.stringify(x.edits)) as Edit[]);
      a = x.session;
      if (y.ok) b = y.session;
    }
    expect(b).toEqual(a);
  });
  it('does all or nothing', () => {
    const outcome = applyChanges(emptySession('S'), [
      { kind: 'track.add', track: plainTrack('a'), parentId: ROOT, index: 0 },
      { kind: 'track.remove', id: 'nope' },
    ]);
    expect(outcome).toEqual({ ok: false, code: 'edit.unknown_id', id: 'nope' });
  });
  it('keeps a folder out of itself and a bus out of a circle', () => {
    const made = applyChanges(emptySession('S'), [
      {
        kind: 'folder.add',
        folder: { kind: 'folder', id: 'f', name: 'F', color: null, busId: null },
        parentId: ROOT,
        index: 0,
      },
      {
        kind: 'folder.add',
        folder: { kind: 'folder', id: 'g', name: 'G', color: null, busId: null },
        parentId: 'f',
        index: 0,
      },
      { kind: 'bus.add', bus: { id: 'a', name: 'A', color: null, outputBusId: null }, index: 0 },
      { kind: 'bus.add', bus: { id: 'b', name: 'B', color: null, outputBusId: 'a' }, index: 1 },
    ]);
    if (!made.ok) throw new Error(made.code);
    expect(applyOne(made.session, { kind: 'node.place', id: 'f', parentId: 'g', index: 0 })).toMatchObject({
      ok: false,
      code: 'edit.into_itself',
    });
    expect(
      applyOne(made.session, { kind: 'bus.change', id: 'a', fields: { outputBusId: 'b' } }),
    ).toMatchObject({ ok: false, code: 'edit.into_itself' });
    // The same over a send.
    expect(
      applyOne(made.session, {
        kind: 'bus.change',
        id: 'a',
        fields: { sends: [{ busId: 'b', gainDb: -6, pan: null, before: false }] },
      }),
    ).toMatchObject({ ok: false, code: 'edit.into_itself', id: 'a' });
    expect(
      applyOne(made.session, {
        kind: 'bus.change',
        id: 'a',
        fields: { sends: [{ busId: 'a', gainDb: 0, pan: null, before: false }] },
      }),
    ).toMatchObject({ ok: false, code: 'edit.into_itself' });
  });
  it('completes buses and tracks that say less than their kinds', () => {
    const { sends: _sends, ...old } = plainTrack('t');
    const made = applyChanges(emptySession('S'), [
      { kind: 'bus.add', bus: { id: 'a', name: 'A', color: null, outputBusId: null }, index: 0 },
      { kind: 'track.add', track: old as Track, parentId: ROOT, index: 0 },
    ]);
    expect(
      made.ok && [
        made.session.buses['a']?.kind,
        made.session.buses['a']?.sends,
        (made.session.nodes['t'] as Track).sends,
      ],
    ).toEqual(['sum', [], []]);
  });
});

describe('history', () => {
  const entry = (
    revision: number,
    action: LogEntry['action'],
    of: number | null = null,
    isUndoable = true,
  ): LogEntry => ({ revision, action, of, undoable: isUndoable });
  it('goes back and forth, passes arrivals by, and forgets redo after a new step', () => {
    const log: LogEntry[] = [entry(1, 'do', null, false), entry(2, 'do'), entry(3, 'do')];
    expect([undoable(log), redoable(log)]).toEqual([3, null]);
    log.push(entry(4, 'undo', 3));
    expect([undoable(log), redoable(log)]).toEqual([2, 3]);
    log.push(entry(5, 'redo', 3));
    expect([undoable(log), redoable(log)]).toEqual([3, null]);
    log.push(entry(6, 'undo', 3), entry(7, 'do', null, false));
    expect([undoable(log), redoable(log)]).toEqual([2, 3]);
    log.push(entry(8, 'do'));
    expect([undoable(log), redoable(log)]).toEqual([8, null]);
  });
});
