import type { SoundLikeness } from '@/core/analysis';
import { applyChanges, emptySession, ROOT, type Track } from '@/core/session';
import { DEFAULT_STYLE, newTrack, proposeSort } from '@/core/style';
import { acceptEdits, heardRows } from './accept-edits';
import { choicesFor } from './choices';

const KICK: SoundLikeness = {
  kind: 'drums',
  confidence: 0.97,
  sounds: [
    { sound: 'kick', confidence: 0.82 },
    { sound: 'toms', confidence: 0.12 },
  ],
};
const VAGUE: SoundLikeness = {
  kind: 'sustained',
  confidence: 0.6,
  sounds: [
    { sound: 'bowed', confidence: 0.45 },
    { sound: 'blown', confidence: 0.2 },
    { sound: 'synth', confidence: 0.05 },
  ],
};

function sessionOf(names: readonly string[]) {
  const made = applyChanges(
    emptySession('s'),
    names.map((n, index) => ({
      kind: 'track.add' as const,
      track: newTrack(`t${index}`, n, {}, DEFAULT_STYLE),
      parentId: ROOT,
      index,
    })),
  );
  if (!made.ok) throw new Error(made.code);
  return made.session;
}
const heardBy = (heard: Readonly<Record<string, SoundLikeness>>) => ({
  factsOf: (t: Track) => ({ channels: 1, findings: [], heard: heard[t.id] ?? null }),
});

it('offers what an opaque track may be by ear under its own name, the likeliest first, never as it came', () => {
  const session = sessionOf(['Audio 12_03.wav', 'Audio 12_04.wav']);
  const { rows } = proposeSort(session, DEFAULT_STYLE, heardBy({ t0: KICK, t1: VAGUE }));
  const choices = (id: string, heard: SoundLikeness) =>
    choicesFor(DEFAULT_STYLE, rows.find((r) => r.trackId === id) ?? null, heard).map((c) => c.name);
  expect(choices('t0', KICK)).toEqual([
    'Kick',
    'Tom',
    'drums',
    'percussion',
    'guitars',
    'keys',
    'lead vocal',
    'reference',
  ]);
  // Not heard clearly enough to propose it, but to offer it.
  expect(choices('t1', VAGUE).slice(0, 3)).toEqual(['Strings', 'Winds', 'Brass']);
  expect([...choices('t0', KICK), ...choices('t1', VAGUE)].some((n) => n.startsWith('Audio'))).toBe(false);
});

it('accepts all that was heard in one step, named and settled; what a person has decided and what has a name is left alone', () => {
  const session = sessionOf(['Audio 1.wav', 'Audio 2.wav', 'Audio 3.wav', 'Snare.wav']);
  const decided = applyChanges(session, [
    { kind: 'track.change', id: 't1', fields: { family: 'keys', byHand: ['family'], confidence: 1 } },
  ]);
  if (!decided.ok) throw new Error(decided.code);
  const heard = heardBy({ t0: KICK, t1: KICK, t2: VAGUE, t3: KICK });
  const proposal = proposeSort(decided.session, DEFAULT_STYLE, heard);
  const rows = heardRows(decided.session, proposal);
  expect(rows.map((r) => r.trackId)).toEqual(['t0']);
  const after = applyChanges(decided.session, acceptEdits(decided.session, DEFAULT_STYLE, proposal, rows));
  if (!after.ok) throw new Error(after.code);
  expect(after.session.nodes.t0).toMatchObject({
    name: 'Kick',
    family: 'drums',
    part: 'kick',
    confidence: 1,
    byHand: ['family'],
  });
  expect(heardRows(after.session, proposeSort(after.session, DEFAULT_STYLE, heard))).toEqual([]);
  expect(after.session.nodes.t2).toMatchObject({ family: 'unknown' });
});

it('offers nothing twice: a lead vocal by ear is no other than the family', () => {
  const sung: SoundLikeness = {
    kind: 'voice-like',
    confidence: 0.9,
    sounds: [{ sound: 'voice', confidence: 0.8 }],
  };
  const names = choicesFor(DEFAULT_STYLE, null, sung).map((c) => c.name.toLowerCase());
  expect(names).toContain('lead vocal');
  expect(names).toEqual([...new Set(names)]);
});
