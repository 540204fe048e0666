import { applyChanges, type Change, emptySession, ROOT, type SessionState } from '../session';
import { type SoundLikeness, type SoundKind, type SoundClass, kindOfSound } from '../analysis';
import type { Family } from '../naming';
import {
  DEFAULT_STYLE,
  likenessWords,
  kindKnown,
  likelyKinds,
  newTrack,
  proposeSort,
  type SortRow,
  withLikeness,
} from './index';
import { meets } from './conditions';

const as = (kind: SoundKind, confidence = 0.95): SoundLikeness => ({ kind, confidence });
const like = (
  sound: SoundClass,
  confidence = 0.9,
  ...others: readonly [SoundClass, number][]
): SoundLikeness => ({
  kind: kindOfSound(sound),
  confidence: 0.95,
  sounds: [{ sound, confidence }, ...others.map(([s, c]) => ({ sound: s, confidence: c }))],
});

/** A session of tracks t0, t1 … of these names, with edits behind. */
function sessionOf(names: readonly string[], edits: readonly Change[] = []): SessionState {
  const made = applyChanges(emptySession('s'), [
    ...names.map((name, index): Change => ({
      kind: 'track.add',
      track: newTrack(`t${index}`, name, {}, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
    ...edits,
  ]);
  if (!made.ok) throw new Error(made.code);
  return made.session;
}

it.each<[Family, number, SoundLikeness | null, Family | null, number | null, string]>([
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
  ['bass', 0.95, as('drums', 0.98), 'bass', 0.65, 'named bass, sounds like drums (0.98): check'],
  ['bass', 0.95, as('drums', 0.92), null, null, ''],
  ['bass', 0.95, as('bass'), null, null, ''],
  ['guitars', 0.95, as('sustained'), null, null, ''],
  ['effects', 0.95, as('drums'), null, null, ''],
])('%s at %d, heard %j', (family, confidence, heard, wanted, sure, means) => {
  const got = withLikeness(family, confidence, heard);
  expect(got && [got.family, got.confidence]).toEqual(wanted && [wanted, sure]);
  if (got) expect(got.evidence.means).toContain(means);
});

it('says the source where it is sure of it, else the kind', () => {
  expect(likenessWords(like('kick'))).toBe('sounds like a kick (0.90)');
  expect(likenessWords(like('kick', 0.6))).toBe('sounds like drums (0.95)');
  expect(likenessWords({ ...like('kick', 0.6), confidence: 0.65 })).toBeNull();
  expect(withLikeness('unknown', 0.1, like('kick'))).toMatchObject({
    family: 'drums',
    by: { family: 'drums', part: 'kick' },
    confidence: 0.5,
  });
  expect(withLikeness('unknown', 0.1, like('several'))).toMatchObject({ family: 'unknown', by: null });
  // Noise, and many at once, say nothing against a name.
  expect(withLikeness('drums', 0.95, like('noise'))).toBeNull();
  expect(withLikeness('strings', 0.95, like('several'))).toBeNull();
});

it('offers the likeliest sources by ear, then families of the kind; none when the ear is not sure', () => {
  const kinds = (heard: SoundLikeness | null) => likelyKinds(heard).map((k) => `${k.family}/${k.part ?? ''}`);
  expect(kinds(as('plucked'))[0]).toBe('guitars/');
  expect(kinds(as('plucked', 0.5))).toEqual([]);
  expect(kinds(null)).toEqual([]);
  expect(kinds(like('snare', 0.5, ['toms', 0.3], ['kick', 0.06])).slice(0, 3)).toEqual([
    'drums/snare',
    'drums/tom',
    'drums/',
  ]);
  expect(kinds(like('blown')).slice(0, 2)).toEqual(['winds/winds', 'brass/brass']);
});

it('a condition on what is heard holds for the source and for its kind', () => {
  const subject = { heard: like('kick') } as Parameters<typeof meets>[1];
  expect(meets({ heard: ['drums'] }, subject)).toBe(true);
  expect(meets({ heard: ['kick', 'snare'] }, subject)).toBe(true);
  expect(meets({ heard: ['snare'] }, subject)).toBe(false);
});

it('what is known of a track: as sorted, a clear name, the ear, a doubtful name', () => {
  const [sorted, clear, doubtful] = [
    { family: 'keys', part: 'piano' } as const,
    { family: 'bass', part: 'electric-bass', confidence: 0.9 } as const,
    { family: 'guitars', part: 'guitar', confidence: 0.4 } as const,
  ];
  const unsorted = { family: 'unknown', part: null } as const;
  expect(kindKnown(sorted, clear, { as: like('kick'), click: null })).toMatchObject({ part: 'piano' });
  expect(kindKnown(unsorted, clear, { as: like('kick'), click: null })).toMatchObject({
    part: 'electric-bass',
  });
  expect(kindKnown(unsorted, doubtful, { as: like('kick'), click: null })).toMatchObject({ part: 'kick' });
  // Of the same kind, or not heard clearly: the name.
  expect(kindKnown(null, doubtful, { as: as('plucked'), click: null })).toMatchObject({ part: 'guitar' });
  expect(kindKnown(null, doubtful, { as: as('drums', 0.5), click: null })).toMatchObject({ part: 'guitar' });
  expect(kindKnown(null, doubtful, { as: as('drums'), click: null })).toMatchObject({ family: 'drums' });
  const click = { hits: 90, perMinute: 90, sounds: 2 };
  expect(kindKnown(null, doubtful, { as: like('hat'), click })).toMatchObject({ family: 'click' });
  expect(kindKnown(null, null, null)).toEqual(unsorted);
});

it('speaks in a proposal: what no word says is doubtful and in a folder; what a person said stays', () => {
  const names = ['rec0011.wav', 'Bass.wav', 'Vox.wav', 'Vox b.wav'];
  const session = sessionOf(names, [
    { kind: 'track.change', id: 't3', fields: { family: 'keys', byHand: ['family'], confidence: 1 } },
  ]);
  const rowOf = (id: string, heard: SoundLikeness | null): SortRow =>
    proposeSort(session, DEFAULT_STYLE, {
      factsOf: (t) => ({ channels: 1, findings: [], heard: t.id === id ? heard : null }),
    }).rows.find((r) => r.trackId === id) as SortRow;
  expect(rowOf('t0', as('plucked'))).toMatchObject({
    family: 'guitars',
    group: 'doubtful',
    folderKey: 'guitars',
    name: 'Guitars',
    isByEar: true,
  });
  expect(rowOf('t0', like('kick'))).toMatchObject({ name: 'Kick', part: 'kick', group: 'doubtful' });
  expect(rowOf('t0', null)).toMatchObject({ family: 'unknown', group: 'unmatched', folderKey: null });
  expect(rowOf('t1', as('drums', 0.98))).toMatchObject({ family: 'bass', group: 'doubtful' });
  expect(rowOf('t1', as('bass'))).toMatchObject({ family: 'bass', group: 'certain' });
  expect(rowOf('t2', null).group).toBe('doubtful');
  // Lead or backing: that it is a voice does not say.
  expect(rowOf('t2', as('voice-like')).group).toBe('doubtful');
  expect(rowOf('t3', as('drums'))).toMatchObject({ family: 'keys', group: 'certain', confidence: 1 });
});

it('what is settled by hand is named by what it is where its name says nothing; a name with a word in it stays', () => {
  const names = ['Audio 12_03.wav', 'Audio 12_04.wav', 'Zixomar.wav'];
  const session = sessionOf(names, [
    ...[
      ['t0', 'guitars', null],
      ['t1', 'drums', 'kick'],
      ['t2', 'guitars', null],
    ].map(([id, family, part]) => ({
      kind: 'track.change' as const,
      id: id as string,
      fields: { family: family as 'drums', part: part ?? null, byHand: ['family'], confidence: 1 },
    })),
  ]);
  const { rows } = proposeSort(session, DEFAULT_STYLE);
  const nameOf = (id: string) => rows.find((r) => r.trackId === id)?.name;
  expect(['t0', 't1', 't2'].map(nameOf)).toEqual(['Guitars', 'Kick', 'Zixomar']);
  expect(rows.every((r) => r.group === 'certain')).toBe(true);
});

it('a name on what sounds like the mix of the others is to be checked, unless a person set it', () => {
  const made = applyChanges(emptySession('s'), [
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
  const settled = applyChanges(made.session, [
    { kind: 'track.change', id: 'm', fields: { family: 'bass', confidence: 1, byHand: ['family'] } },
  ]);
  expect(settled.ok && rowsOf(settled.session).find((r) => r.trackId === 'm')?.group).not.toBe('doubtful');
});

it('what sounds like the mix is proposed as that where its name says nothing, or is a song’s title', () => {
  const names = ['Low Water.wav', 'qqq.wav', 'Kick.wav', 'Snare.wav', 'Bass.wav'];
  const { rows } = proposeSort(sessionOf(names), DEFAULT_STYLE, {
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
