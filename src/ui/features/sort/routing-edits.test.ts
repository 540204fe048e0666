import {
  applyChanges,
  emptySession,
  type Change,
  type Folder,
  NOWHERE,
  ROOT,
  routingNotes,
  type SessionState,
  type Track,
  tracksInOrder,
} from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import {
  changeGroup,
  newBus,
  newGroupEdits,
  ownSumEdits,
  removeBusEdits,
  sumFolderEdits,
} from './routing-edits';

const apply = (s: SessionState, edits: readonly Change[]): SessionState => {
  const outcome = applyChanges(s, edits);
  if (!outcome.ok) throw new Error(`${outcome.code} ${outcome.id}`);
  return outcome.session;
};
const bus = (id: string, outputBusId: string | null, index: number): Change => ({
  kind: 'bus.add',
  bus: { id, name: id, color: null, outputBusId },
  index,
});
const folder = (id: string, busId: string | null, parentId: string): Change => ({
  kind: 'folder.add',
  folder: { kind: 'folder', id, name: id, color: '#112233', busId },
  parentId,
  index: 99,
});
const track = (id: string, busId: string | null, parentId: string): Change => ({
  kind: 'track.add',
  track: { ...newTrack(id, id, {}, DEFAULT_STYLE), busId },
  parentId,
  index: 99,
});
/** all ← drums ← kit(kick, inner(snare), dry → all) */
const start = apply(emptySession('s'), [
  bus('all', null, 0),
  bus('drums', 'all', 1),
  folder('kit', 'drums', ROOT),
  track('kick', 'drums', 'kit'),
  folder('inner', null, 'kit'),
  track('snare', 'drums', 'inner'),
  track('dry', 'all', 'kit'),
  track('voice', null, ROOT),
]);
const ways = (s: SessionState): string =>
  tracksInOrder(s)
    .map((t) => `${t.id}:${t.busId}`)
    .join(' ');
const node = (s: SessionState, id: string): Folder => s.nodes[id] as Folder;

it('a folder on another sum takes its tracks along, but not those that went past it', () => {
  expect(ways(apply(start, sumFolderEdits(start, node(start, 'kit'), 'all')))).toBe(
    'kick:all snare:all dry:all voice:null',
  );
  expect(ways(apply(start, sumFolderEdits(start, node(start, 'kit'), null)))).toBe(
    'kick:null snare:null dry:all voice:null',
  );
});
it('a sum of its own for a folder inside feeds the one around it', () => {
  const made = apply(start, ownSumEdits(start, node(start, 'inner')));
  expect(ways(made)).toBe('kick:drums snare:bus-own-1 dry:all voice:null');
  expect(made.buses['bus-own-1']).toMatchObject({
    name: 'inner',
    color: '#112233',
    outputBusId: 'drums',
    kind: 'sum',
  });
  expect(routingNotes(made)).toEqual([{ code: 'past-sum', id: 'dry', sumId: 'drums' }]);
  // And back again.
  expect(ways(apply(made, sumFolderEdits(made, node(made, 'inner'), null)))).toBe(
    'kick:drums snare:drums dry:all voice:null',
  );
});
it('a bus taken away leaves nothing that points at it', () => {
  const { id, edit } = newBus(start, 'return', 'Room');
  const sent = apply(start, [
    edit,
    {
      kind: 'track.change',
      id: 'kick',
      fields: { sends: [{ busId: id, gainDb: 0, pan: null, before: false }] },
    },
    {
      kind: 'bus.change',
      id: 'all',
      fields: { sends: [{ busId: id, gainDb: 0, pan: null, before: false }] },
    },
  ]);
  const without = apply(sent, removeBusEdits(sent, id));
  expect([(without.nodes['kick'] as Track).sends, without.buses['all']?.sends, without.busOrder]).toEqual([
    [],
    [],
    ['all', 'drums'],
  ]);
  const flat = apply(start, removeBusEdits(start, 'drums'));
  expect([ways(flat), node(flat, 'kit').busId]).toEqual(['kick:all snare:all dry:all voice:null', 'all']);
  const aside = apply(start, [{ kind: 'bus.change', id: 'drums', fields: { outputBusId: NOWHERE } }]);
  const gone = apply(aside, removeBusEdits(aside, 'drums'));
  expect([(gone.nodes['kick'] as Track).busId, node(gone, 'kit').busId]).toEqual([NOWHERE, null]);
  expect(removeBusEdits(start, 'no such')).toEqual([]);
});
it('groups are made, changed and taken away; a person’s groups are theirs', () => {
  const made = apply(start, newGroupEdits(start, ['kick', 'snare', 'kit']));
  expect(made.groups).toEqual([
    { id: 'group-own-1', name: 'Group 1', trackIds: ['kick', 'snare'], on: true, gainDb: 0, byHand: true },
  ]);
  expect(newGroupEdits(start, ['kick'])).toEqual([]);
  expect(apply(made, [changeGroup(made, 'group-own-1', { gainDb: -3 })]).groups[0]?.gainDb).toBe(-3);
  expect(apply(made, [changeGroup(made, 'group-own-1', null)]).groups).toEqual([]);
});
