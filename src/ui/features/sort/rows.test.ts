import { emptySession, applyChanges, ROOT, type Change } from '@/core/session';
import { DEFAULT_STYLE, newTrack, proposeSort } from '@/core/style';
import { sheetRows, shownKind, sortedRows } from './rows';

it('shows what a track is set to, else what is proposed', () => {
  const proposed = { family: 'drums', fields: { family: 'drums', part: 'tom' } } as const;
  expect(shownKind({ family: 'unknown', part: null }, proposed)).toEqual({ family: 'drums', part: 'tom' });
  expect(shownKind({ family: 'keys', part: 'organ' }, proposed)).toEqual({ family: 'keys', part: 'organ' });
  expect(shownKind({ family: 'unknown', part: null }, null)).toEqual({ family: 'unknown', part: null });
  // What would not change is not among the fields.
  expect(
    shownKind({ family: 'unknown', part: 'tom' }, { family: 'drums', fields: { family: 'drums' } }),
  ).toEqual({ family: 'drums', part: 'tom' });
});

it('sorts tracks to be looked at: names with their numbers, kinds, the loudest first; folders are left out', () => {
  const made = applyChanges(emptySession('s'), [
    {
      kind: 'folder.add',
      folder: { kind: 'folder', id: 'f', name: 'F', color: null, busId: null },
      parentId: ROOT,
      index: 0,
    },
    ...['Tom 10', 'Tom 2', 'Bass'].map((n, index): Change => ({
      kind: 'track.add',
      track: newTrack(n, `${n}.wav`, {}, DEFAULT_STYLE),
      parentId: index < 2 ? 'f' : ROOT,
      index,
    })),
  ]);
  if (!made.ok) throw new Error(made.code);
  const rows = sheetRows(made.session, proposeSort(made.session, DEFAULT_STYLE), {
    folded: new Set(),
    lens: null,
  });
  const ids = (by: 'name' | 'kind' | 'peak', down = false): string =>
    sortedRows(
      rows,
      { by, down },
      {
        peakOf: (t) => ({ 'Tom 10': -3, 'Tom 2': -12, Bass: null })[t.id] ?? null,
        busNameOf: () => null,
      },
    )
      .map((r) => `${r.id}${r.depth}`)
      .join(' ');
  expect([ids('name'), ids('name', true), ids('kind'), ids('peak')]).toEqual([
    'Bass0 Tom 20 Tom 100',
    'Tom 100 Tom 20 Bass0',
    'Bass0 Tom 20 Tom 100',
    'Tom 100 Tom 20 Bass0',
  ]);
});
