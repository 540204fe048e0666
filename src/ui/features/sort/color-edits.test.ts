import { applyChanges, emptySession, type Change, ROOT, tracksInOrder } from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { colorEdits } from './color-edits';

const made = applyChanges(emptySession('s'), [
  {
    kind: 'folder.add',
    folder: { kind: 'folder', id: 'f', name: 'F', color: '#123456', busId: null },
    parentId: ROOT,
    index: 0,
  },
  ...['a', 'b', 'c'].map((id, index): Change => ({
    kind: 'track.add',
    track: {
      ...newTrack(id, id, {}, DEFAULT_STYLE),
      family: 'bass',
      color: '#aaaaaa',
      byHand: id === 'a' ? ['color', 'name'] : [],
    },
    parentId: id === 'c' ? ROOT : 'f',
    index,
  })),
]);
if (!made.ok) throw new Error(made.code);
const { session } = made;
const colored = (by: Parameters<typeof colorEdits>[3]): (string | null | readonly string[])[][] => {
  const done = applyChanges(session, colorEdits(session, DEFAULT_STYLE, tracksInOrder(session), by));
  return done.ok ? tracksInOrder(done.session).map((t) => [t.color, t.byHand]) : [];
};

it('colours as the folder, distinctly, or by the house style again', () => {
  expect(colored('folder')).toEqual([
    ['#123456', ['color', 'name']],
    ['#123456', ['color']],
    ['#aaaaaa', []],
  ]);
  expect(colored('style')).toEqual([
    [DEFAULT_STYLE.colors.bass, ['name']],
    [DEFAULT_STYLE.colors.bass, []],
    [DEFAULT_STYLE.colors.bass, []],
  ]);
  const distinct = colored('distinct');
  expect(new Set(distinct.map(([c]) => c)).size).toBe(3);
  expect(distinct.every(([, hand]) => hand?.includes('color'))).toBe(true);
});
