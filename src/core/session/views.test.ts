import { plainTrack } from '../../../tests/support/random-edits';
import {
  applyChanges,
  emptySession,
  indexBefore,
  listRows,
  pathOf,
  ROOT,
  tracksInOrder,
  tracksUnder,
  type Change,
  type SessionState,
  type Track,
} from './index';

const track = (id: string, busId: string | null = null): Track => ({ ...plainTrack(id), busId });
const folder = (id: string, busId: string | null, parentId: string, index: number): Change => ({
  kind: 'folder.add',
  folder: { kind: 'folder', id, name: id.toUpperCase(), color: null, busId },
  parentId,
  index,
});
const bus = (id: string, outputBusId: string | null, index: number): Change => ({
  kind: 'bus.add',
  bus: { id, name: id, color: null, outputBusId },
  index,
});

/** kit( kick inner( snare ) ) voice */
const session: SessionState = (() => {
  const made = applyChanges(emptySession('s'), [
    bus('all', null, 0),
    bus('drums', 'all', 1),
    bus('idle', null, 2),
    folder('kit', 'drums', ROOT, 0),
    { kind: 'track.add', track: track('kick', 'drums'), parentId: 'kit', index: 0 },
    folder('inner', null, 'kit', 1),
    { kind: 'track.add', track: track('snare'), parentId: 'inner', index: 0 },
    { kind: 'track.add', track: track('voice'), parentId: ROOT, index: 1 },
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
})();

it('lists rows from top to bottom with their depth and place', () => {
  expect(listRows(session).map((r) => [r.node.id, r.depth, r.parentId, r.index])).toEqual([
    ['kit', 0, ROOT, 0],
    ['kick', 1, 'kit', 0],
    ['inner', 1, 'kit', 1],
    ['snare', 2, 'inner', 0],
    ['voice', 0, ROOT, 1],
  ]);
});

it('leaves out what is folded away, at any depth', () => {
  expect(listRows(session, new Set(['inner'])).map((r) => r.node.id)).toEqual([
    'kit',
    'kick',
    'inner',
    'voice',
  ]);
  expect(listRows(session, new Set(['kit'])).map((r) => r.node.id)).toEqual(['kit', 'voice']);
});

it('gives tracks in order and the folders they lie in', () => {
  expect(tracksInOrder(session).map((t) => t.id)).toEqual(['kick', 'snare', 'voice']);
  expect(pathOf(session, 'snare')).toEqual(['KIT', 'INNER']);
  expect(pathOf(session, 'voice')).toEqual([]);
  expect(pathOf(session, 'nobody')).toEqual([]);
});

describe('edits that do not fit', () => {
  const fault = (edit: Change): string => {
    const outcome = applyChanges(session, [edit]);
    return outcome.ok ? 'fits' : outcome.code;
  };
  it.each<[string, Change]>([
    ['edit.unknown_id', { kind: 'track.remove', id: 'kit' }],
    ['edit.unknown_id', { kind: 'folder.remove', id: 'kick' }],
    ['edit.not_empty', { kind: 'folder.remove', id: 'kit' }],
    ['edit.id_taken', { kind: 'track.add', track: track('kick'), parentId: ROOT, index: 0 }],
    ['edit.unknown_id', { kind: 'track.add', track: track('new'), parentId: 'kick', index: 0 }],
    ['edit.into_itself', { kind: 'node.place', id: 'kit', parentId: 'inner', index: 0 }],
    ['edit.into_itself', { kind: 'node.place', id: 'kit', parentId: 'kit', index: 0 }],
    ['edit.in_use', { kind: 'bus.remove', id: 'drums' }],
    ['edit.in_use', { kind: 'bus.remove', id: 'all' }],
    ['edit.into_itself', { kind: 'bus.change', id: 'all', fields: { outputBusId: 'drums' } }],
    ['edit.unknown_id', { kind: 'track.change', id: 'kick', fields: { busId: 'other' } }],
    [
      'edit.unknown_id',
      {
        kind: 'track.change',
        id: 'kick',
        fields: { sends: [{ busId: 'other', gainDb: 0, pan: null, before: false }] },
      },
    ],
    [
      'edit.id_taken',
      {
        kind: 'track.change',
        id: 'kick',
        fields: {
          sends: [
            { busId: 'idle', gainDb: 0, pan: null, before: false },
            { busId: 'idle', gainDb: -6, pan: null, before: true },
          ],
        },
      },
    ],
    ['edit.unknown_id', { kind: 'folder.change', id: 'kit', fields: { busId: 'nowhere' } }],
    ['fits', { kind: 'bus.remove', id: 'idle' }],
    ['fits', { kind: 'node.place', id: 'kick', parentId: ROOT, index: 99 }],
  ])('%s', (code, edit) => {
    expect(fault(edit)).toBe(code);
  });
});

it('finds the tracks of chosen rows, those in folders at any depth, each once and in order', () => {
  const ids = (...chosen: string[]): string[] => tracksUnder(session, chosen).map((t) => t.id);
  expect(ids('kit')).toEqual(['kick', 'snare']);
  expect(ids('voice', 'inner', 'snare')).toEqual(['snare', 'voice']);
  expect(ids('gone')).toEqual([]);
});

it('puts what comes late before the last that belong after it, and not into what was ordered since', () => {
  const after = new Set(['d', 'e']);
  expect(indexBefore(['a', 'd', 'e'], after)).toBe(1);
  expect(indexBefore(['d', 'a'], after)).toBe(2);
  expect(indexBefore(['d', 'e'], after)).toBe(0);
  expect(indexBefore([], after)).toBe(0);
});
