import { applyChanges, emptySession, listRows, ROOT, type Change, type SessionState } from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { createRandom } from '@/core/units';
import {
  copyNameEdits,
  dropEdits,
  emptyFolderEdits,
  intoEdits,
  moveEdits,
  nestEdits,
  newFolderEdits,
  removeEdits,
} from './moves';

const apply = (s: SessionState, edits: readonly Change[]): SessionState => {
  const outcome = applyChanges(s, edits);
  if (!outcome.ok) throw new Error(`${outcome.code} ${outcome.id}`);
  return outcome.session;
};
const folder = (id: string, parentId: string, index: number): Change => ({
  kind: 'folder.add',
  folder: { kind: 'folder', id, name: id, color: null, busId: null },
  parentId,
  index,
});
const track = (id: string, parentId: string, index: number): Change => ({
  kind: 'track.add',
  track: newTrack(id, id, { dualMono: false }, DEFAULT_STYLE),
  parentId,
  index,
});
/** F(a b G(c)) d e */
const start = apply(emptySession('s'), [
  folder('F', ROOT, 0),
  track('a', 'F', 0),
  track('b', 'F', 1),
  folder('G', 'F', 2),
  track('c', 'G', 0),
  track('d', ROOT, 1),
  track('e', ROOT, 2),
]);
const shape = (s: SessionState, id = ROOT): string =>
  (s.children[id] ?? []).map((x) => (s.nodes[x]?.kind === 'folder' ? `${x}(${shape(s, x)})` : x)).join(' ');

it('moves rows among their siblings, edges hold', () => {
  expect(shape(start)).toBe('F(a b G(c)) d e');
  expect(shape(apply(start, moveEdits(start, ['e'], -1)))).toBe('F(a b G(c)) e d');
  expect(shape(apply(start, moveEdits(start, ['d', 'e'], -1)))).toBe('d e F(a b G(c))');
  expect(moveEdits(start, ['F'], -1)).toEqual([]);
  expect(moveEdits(start, ['e'], 1)).toEqual([]);
});
it('drops before a row, or into a folder at its end', () => {
  expect(shape(apply(start, dropEdits(start, ['e'], { id: 'b', into: false })))).toBe('F(a e b G(c)) d');
  expect(shape(apply(start, dropEdits(start, ['d', 'a'], { id: 'G', into: true })))).toBe('F(b G(c a d)) e');
  expect(shape(apply(start, dropEdits(start, ['a'], { id: 'e', into: false })))).toBe('F(b G(c)) d a e');
});
it('never puts a folder into itself', () => {
  expect(dropEdits(start, ['F'], { id: 'c', into: false })).toEqual([]);
  expect(dropEdits(start, ['F'], { id: 'G', into: true })).toEqual([]);
  expect(dropEdits(start, ['F'], { id: 'F', into: true })).toEqual([]);
});
it('makes a folder around a selection, where its first row stood', () => {
  expect(shape(apply(start, newFolderEdits(start, ['e', 'b'])))).toBe('F(a folder-own-1(b e) G(c)) d');
  expect(newFolderEdits(start, [])).toEqual([]);
});
it('takes tracks out and folders apart, in their place', () => {
  expect(shape(apply(start, removeEdits(start, ['b', 'e'])))).toBe('F(a G(c)) d');
  expect(shape(apply(start, removeEdits(start, ['F'])))).toBe('a b G(c) d e');
  expect(shape(apply(start, removeEdits(start, ['F', 'G', 'a'])))).toBe('b c d e');
  const outcome = applyChanges(start, removeEdits(start, ['F', 'G', 'a']));
  if (outcome.ok) expect(apply(outcome.session, outcome.inverse)).toEqual(start);
});
it('any drop keeps every row once (seed 31)', () => {
  const random = createRandom(31);
  const all = ['F', 'G', 'a', 'b', 'c', 'd', 'e'];
  let s = start;
  for (let i = 0; i < 500; i++) {
    const ids = all.filter(() => random() < 0.3);
    s = apply(
      s,
      dropEdits(s, ids, { id: all[Math.floor(random() * all.length)] as string, into: random() < 0.5 }),
    );
    s = apply(s, moveEdits(s, ids, random() < 0.5 ? 1 : -1));
    expect(
      listRows(s)
        .map((r) => r.node.id)
        .sort(),
    ).toEqual([...all].sort());
  }
});
it('goes into the folder before it and out again, as deep as they stand', () => {
  const inside = apply(start, nestEdits(start, ['d', 'e'], true));
  expect(shape(inside)).toBe('F(a b G(c) d e)');
  expect(shape(apply(inside, nestEdits(inside, ['d'], true)))).toBe('F(a b G(c d) e)');
  expect(shape(apply(inside, nestEdits(inside, ['d', 'e'], false)))).toBe('F(a b G(c)) d e');
  expect(nestEdits(start, ['a'], true)).toEqual([]);
  expect(nestEdits(start, ['d'], false)).toEqual([]);
  expect(intoEdits(start, ['F'], 'G')).toEqual([]);
});
it('what a person puts in a folder feeds its sum and stays there', () => {
  const s = apply(start, [
    { kind: 'bus.add', bus: { id: 'low', name: 'Low', color: null, outputBusId: null }, index: 0 },
    { kind: 'folder.change', id: 'F', fields: { busId: 'low' } },
  ]);
  // G has no sum of its own: the one around it counts.
  expect(apply(s, intoEdits(s, ['d'], 'G')).nodes.d).toMatchObject({
    busId: 'low',
    byHand: ['place', 'busId'],
  });
  const within = apply(s, moveEdits(s, ['a'], 1));
  expect(within.nodes.a).toMatchObject({ busId: null, byHand: ['place'] });
  const back = apply(s, intoEdits(s, ['d'], 'F'));
  expect(apply(back, intoEdits(back, ['d'], ROOT)).nodes.d).toMatchObject({ busId: null });
});
it('takes away folders without tracks, copies a name down', () => {
  const s = apply(start, [folder('H', ROOT, 0), folder('I', 'H', 0)]);
  expect(shape(apply(s, emptyFolderEdits(s)))).toBe('F(a b G(c)) d e');
  expect(emptyFolderEdits(start)).toEqual([]);
  const named = apply(start, [{ kind: 'track.change', id: 'a', fields: { name: 'Frog 3' } }]);
  const copied = apply(named, copyNameEdits(named, ['e', 'a', 'c']));
  expect(['a', 'c', 'e'].map((id) => copied.nodes[id]?.name)).toEqual(['Frog 3', 'Frog 4', 'Frog 5']);
});
