import { applyEdits, emptySession, ROOT } from '../session';
import type { HeardAs, HeardKind } from '../analysis';
import type { Family } from '../naming';
import { DEFAULT_STYLE, familiesHeard, newTrack, proposeSort, type SortRow, withHeard } from './index';

const as = (kind: HeardKind, confidence = 0.95): HeardAs => ({ kind, confidence });

it.each<[Family, number, HeardAs | null, Family | null, number | null, string]>([
  // The name is silent: a family to be checked, or only a word where it could be too much.
  ['unknown', 0.1, as('drums'), 'drums', 0.5, 'sounds like drums (0.95)'],
  ['unknown', 0.1, as('voice-like'), 'lead-vocal', 0.5, 'sounds like a voice (0.95)'],
  ['unknown', 0.1, as('sustained'), 'unknown', 0.1, 'sounds like a held sound (0.95)'],
  ['unknown', 0.1, as('drums', 0.6), null, null, ''],
  ['unknown', 0.1, null, null, null, ''],
  // Doubtful: believed when it sounds so, doubted on when not.
  ['bass', 0.6, as('bass'), 'bass', 0.75, 'as its name says'],
  ['bass', 0.6, as('drums'), 'bass', 0.6, 'not like its name: check'],
  // Clear: never overruled; asked again when the ear is as sure.
  ['bass', 0.95, as('drums'), 'bass', 0.65, 'named bass, sounds like drums (0.95): check'],
  ['bass', 0.95, as('drums', 0.8), null, null, ''],
  ['bass', 0.95, as('bass'), null, null, ''],
  ['guitars', 0.95, as('sustained'), null, null, ''],
  ['effects', 0.95, as('drums'), null, null, ''],
])('%s at %d, heard %j', (family, confidence, heard, wanted, sure, means) => {
  const got = withHeard(family, confidence, heard);
  expect(got && [got.family, got.confidence]).toEqual(wanted && [wanted, sure]);
  if (got) expect(got.evidence.means).toContain(means);
});

it('offers families by ear, none when the ear is not sure', () => {
  expect(familiesHeard(as('plucked'))[0]).toBe('guitars');
  expect(familiesHeard(as('plucked', 0.5))).toEqual([]);
  expect(familiesHeard(null)).toEqual([]);
});

it('speaks in a proposal: what no word says is doubtful and in a folder; what a person said stays', () => {
  const names = ['rec0011.wav', 'Bass.wav', 'Vox.wav', 'Vox b.wav'];
  const made = applyEdits(emptySession('s'), [
    ...names.map((n, index) => ({
      kind: 'track.add' as const,
      track: newTrack(`t${index}`, n, {}, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
    { kind: 'track.change', id: 't3', fields: { family: 'keys', byHand: ['family'], confidence: 1 } },
  ]);
  if (!made.ok) throw new Error(made.code);
  const rowOf = (id: string, heard: HeardAs | null): SortRow =>
    proposeSort(made.session, DEFAULT_STYLE, {
      factsOf: (t) => ({ channels: 1, findings: [], heard: t.id === id ? heard : null }),
    }).rows.find((r) => r.trackId === id) as SortRow;
  expect(rowOf('t0', as('plucked'))).toMatchObject({
    family: 'guitars',
    group: 'doubtful',
    folderKey: 'guitars',
    name: 'rec0011',
  });
  expect(rowOf('t0', null)).toMatchObject({ family: 'unknown', group: 'unmatched', folderKey: null });
  expect(rowOf('t1', as('drums'))).toMatchObject({ family: 'bass', group: 'doubtful' });
  expect(rowOf('t1', as('bass'))).toMatchObject({ family: 'bass', group: 'certain' });
  expect(rowOf('t2', null).group).toBe('doubtful');
  // Lead or backing: that it is a voice does not say.
  expect(rowOf('t2', as('voice-like')).group).toBe('doubtful');
  expect(rowOf('t3', as('drums'))).toMatchObject({ family: 'keys', group: 'certain', confidence: 1 });
});

it('a name on what sounds like the mix of the others is to be checked, unless a person set it', () => {
  const made = applyEdits(emptySession('s'), [
    {
      kind: 'track.add',
      track: newTrack('m', 'Bass DI.wav', {}, DEFAULT_STYLE),
      parentId: ROOT,
      index: 0,
    },
    { kind: 'track.add', track: newTrack('b', 'Bass.wav', {}, DEFAULT_STYLE), parentId: ROOT, index: 1 },
  ]);
  if (!made.ok) throw new Error(made.code);
  const rowsOf = (session: typeof made.session) =>
    proposeSort(session, DEFAULT_STYLE, {
      factsOf: (t) => ({ channels: 2, findings: t.id === 'm' ? ['heard-mix'] : [], heard: as('bass') }),
    }).rows;
  const row = rowsOf(made.session).find((r) => r.trackId === 'm');
  expect(row).toMatchObject({ family: 'bass', group: 'doubtful' });
  expect(row?.evidence.map((e) => e.means)).toContain('named bass, sounds like a mix of the others: check');
  expect(rowsOf(made.session).find((r) => r.trackId === 'b')?.group).toBe('certain');
  const settled = applyEdits(made.session, [
    { kind: 'track.change', id: 'm', fields: { family: 'bass', confidence: 1, byHand: ['family'] } },
  ]);
  expect(settled.ok && rowsOf(settled.session).find((r) => r.trackId === 'm')?.group).not.toBe('doubtful');
});

it('what sounds like the mix is proposed as that where its name says nothing, or is a song’s title', () => {
  const names = ['Low Water.wav', 'qqq.wav', 'Kick.wav', 'Snare.wav', 'Bass.wav'];
  const made = applyEdits(
    emptySession('s'),
    names.map((name, index) => ({
      kind: 'track.add',
      track: newTrack(`t${index}`, name, {}, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
  );
  if (!made.ok) throw new Error(made.code);
  const { rows } = proposeSort(made.session, DEFAULT_STYLE, {
    factsOf: (t) => ({
      channels: 2,
      findings: ['t0', 't1'].includes(t.id) ? ['heard-mix'] : [],
      heard: null,
    }),
  });
  for (const id of ['t0', 't1'])
    expect(rows.find((r) => r.trackId === id)).toMatchObject({
      family: 'reference',
      fields: { part: 'mix' },
      name: expect.stringMatching(/^Rough Mix/) as string,
    });
  expect(rows.filter((r) => r.family === 'reference').map((r) => r.group)).not.toContain('certain');
});
