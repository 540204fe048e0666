import { FAMILIES, partsOf } from '@/core/naming';
import {
  applyChanges,
  type Change,
  emptySession,
  isTrack,
  NOWHERE,
  ROOT,
  type SessionState,
  type Track,
} from '@/core/session';
import { DEFAULT_STYLE, newTrack } from '@/core/style';
import { allKinds, cellEdits, cellText, type EditedColumn, readKind } from './cell-edits';
import { holderOf, readPan, stepEdits } from '@/ui/strips';

/** The session with changes done; one that cannot be done fails the test. */
function done(session: SessionState, changes: readonly Change[]): SessionState {
  const result = applyChanges(session, changes);
  if (!result.ok) throw new Error(result.code);
  return result.session;
}

const session = done(
  emptySession('s'),
  ['Kick', 'Snare', 'Hat'].map((name, index) => ({
    kind: 'track.add' as const,
    track: { ...newTrack(name, `${name}.wav`, {}, DEFAULT_STYLE), gainDb: [-3, 0, 11][index] ?? 0 },
    parentId: ROOT,
    index,
  })),
);
const tracks = Object.values(session.nodes).filter(isTrack);
const by = { session, style: DEFAULT_STYLE, shownFamily: 'drums' as const };

/** Tracks as an edit leaves them. */
function after(result: ReturnType<typeof cellEdits>): readonly Track[] {
  if ('error' in result) throw new Error(result.error);
  const { nodes } = done(session, result.edits);
  return tracks.map((t) => nodes[t.id] as Track);
}

it('gives all of some tracks what is typed in one cell, and marks it as set by hand', () => {
  const levels = after(cellEdits('level', '−4,5 dB', tracks, by));
  expect(levels.map((t) => t.gainDb)).toEqual([-4.5, -4.5, -4.5]);
  expect(levels.every((t) => t.byHand.includes('gainDb'))).toBe(true);
  expect(after(cellEdits('pan', 'l30', tracks, by)).map((t) => t.pan)).toEqual([-0.3, -0.3, -0.3]);
  expect(after(cellEdits('bus', NOWHERE, tracks, by)).map((t) => t.busId)).toEqual([
    NOWHERE,
    NOWHERE,
    NOWHERE,
  ]);
  expect(after(cellEdits('role', 'Ad Lib', tracks, by)).map((t) => t.role)).toEqual([
    'ad-lib',
    'ad-lib',
    'ad-lib',
  ]);
  expect(after(cellEdits('kind', 'keys · organ', tracks, by)).map((t) => [t.family, t.part])).toEqual(
    tracks.map(() => ['keys', 'organ']),
  );
});

it('steps each from where it is; one that cannot go on refuses for all, and nothing changes where all have it', () => {
  expect(after(cellEdits('level', '+=13', tracks, by)).map((t) => t.gainDb)).toEqual([10, 13, 24]);
  expect(cellEdits('level', '+=14', tracks, by)).toEqual({ error: 'At most 24 dB.' });
  // Said by hand, what is there already is kept from the house style; said again, it is no step.
  const [kick] = after(cellEdits('level', '-3', tracks.slice(0, 1), by));
  expect(kick).toMatchObject({ gainDb: -3, byHand: ['gainDb'] });
  expect(cellEdits('level', '-3', [kick as Track], by)).toMatchObject({ edits: [] });
});

it('keeps the distances of several at the ends of the range', () => {
  expect(after(stepEdits('level', 16, tracks)).map((t) => t.gainDb)).toEqual([10, 13, 24]);
  const beyond = tracks.map((t) => ({ ...t, gainDb: -80 }));
  expect(stepEdits('level', -1, beyond)).toMatchObject({
    edits: tracks.map(() => ({ fields: { gainDb: -80 } })),
  });
  expect(after(stepEdits('pan', -250, tracks)).map((t) => t.pan)).toEqual([-1, -1, -1]);
});

it('says who holds several back, and nobody where all can go', () => {
  // Levels −3, 0 and 11 of at most 24 and at least −60.
  expect(holderOf('level', 16, tracks)?.name).toBe('Hat');
  expect(holderOf('level', 13, tracks)).toBeNull();
  expect(holderOf('level', -58, tracks)?.name).toBe('Kick');
  expect(holderOf('pan', 120, [{ ...(tracks[0] as Track), pan: 1 }])).toBeNull();
});

it.each([
  ['C', 0],
  ['centre', 0],
  ['L', -100],
  ['r 25', 25],
  ['40 left', -40],
  ['-12', -12],
  ['33 %', 33],
  ['+=5', 15],
])('reads the pan %s', (text, value) => expect(readPan(text, 10)).toEqual({ value }));

it.each(['L101', 'l-3', 'l30r', 'loud', '', '500'])('refuses the pan “%s”', (text) =>
  expect(readPan(text, 0)).toHaveProperty('error'),
);

it('reads back every kind it offers as itself', () => {
  for (const text of allKinds()) {
    const found = readKind(text, 'unknown');
    if ('error' in found) throw new Error(`${text}: ${found.error}`);
    expect(cellText('kind', { ...(tracks[0] as Track), ...found }, '')).toBe(text);
  }
});

it('reads a part alone where one family has it, else asks which', () => {
  const shared = FAMILIES.flatMap((f) => partsOf(f)).find(
    (p, i, all) => all.indexOf(p) !== i && !(FAMILIES as readonly string[]).includes(p),
  );
  expect(readKind('snare', 'keys')).toEqual({ family: 'drums', part: 'snare' });
  if (shared) expect(readKind(shared, 'unknown')).toHaveProperty('error');
  // A noun of one's own belongs to the family the row shows; without one it is asked for.
  expect(readKind('nyckelharpa thing', 'strings')).toEqual({ family: 'strings', part: 'nyckelharpa-thing' });
  expect(readKind('nyckelharpa thing', 'unknown')).toHaveProperty('error');
  expect(readKind('kitchen · spoon', 'drums')).toEqual({ error: 'No family is called “kitchen”.' });
});

it.each<[EditedColumn, string]>([
  ['level', '−3.0'],
  ['pan', 'C'],
  ['bus', 'Drums'],
])('shows %s as %s', (id, text) => expect(cellText(id, tracks[0] as Track, 'Drums')).toBe(text));
