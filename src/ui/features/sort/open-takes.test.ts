import { applyChanges, type Change, emptySession, type SessionState } from '@/core/session';
import { plainTrack } from '../../../../tests/support/random-edits';
import { openTakes, packingOf, packingOfAnswer, type TakesOffer, type TakesQuestion } from './open-takes';

const done = (session: SessionState, changes: readonly Change[]): SessionState => {
  const made = applyChanges(session, changes);
  if (!made.ok) throw new Error(made.code);
  return made.session;
};
const SESSION = done(
  emptySession('Slip'),
  ['a', 'b', 'c', 'd'].map((id, i): Change => ({
    kind: 'track.add',
    track: { ...plainTrack(id), name: `Lead Vocal ${i + 1}` },
    parentId: 'root',
    index: 9,
  })),
);
const TAKES = {
  takes: [
    {
      lanes: [
        { trackId: 'a', number: 3, confidence: 0.97 },
        { trackId: 'b', number: 4, confidence: 0.97 },
      ],
      wantedId: 'b',
      pieces: null,
      reason: 'their names',
    },
  ],
  together: [{ trackIds: ['a', 'c'], reason: 'in harmony' }],
  questions: [{ trackIds: ['c', 'd'], question: 'takes?' }],
  mixTrackId: null,
};
const view = (session = SESSION, keys: readonly string[] = []) => ({
  session,
  takes: TAKES,
  recordings: ['a', 'b', 'c', 'd'].map((id) => ({ id: `r-${id}`, sha256: id.repeat(64) })) as never,
  dismissals: keys.map((key) => ({ key, note: '', madeAt: '' })),
});

it('what was found is open until it is packed, answered, or a track of it is gone', () => {
  const open = openTakes(view());
  expect([open.offers.length, open.questions.length, open.together.length]).toEqual([1, 1, 1]);
  expect(open.offers[0]).toMatchObject({ name: 'Lead Vocal', wantedId: 'b', numbers: [3, 4] });
  const { id, lanes } = packingOf(open.offers[0] as TakesOffer);
  const packed = done(SESSION, [{ kind: 'lanes.pack', id, lanes }]);
  expect(packed.nodes.b).toMatchObject({ takeNumber: 4, otherLanes: [{ takeNumber: 3 }] });
  const after = openTakes(view(packed));
  expect([after.offers.length, after.questions.length, after.together.length]).toEqual([0, 1, 0]);
  expect(openTakes(view(SESSION, open.questions[0]?.keys)).questions).toEqual([]);
  expect(openTakes(view(done(SESSION, [{ kind: 'track.remove', id: 'd' }]))).questions).toEqual([]);
  expect(openTakes(view(SESSION, open.questions[0]?.keys)).apart.map((a) => a.keys)).toEqual([
    open.questions[0]?.keys,
  ]);
  expect(openTakes({ ...view(), takes: null })).toEqual({
    offers: [],
    questions: [],
    apart: [],
    together: [],
  });
});

it('an answer packs in the order asked, the first sounds', () => {
  const [question] = openTakes(view()).questions;
  expect(packingOfAnswer(question as TakesQuestion)).toMatchObject({
    id: 'c',
    name: 'Lead Vocal',
    lanes: [
      { trackId: 'c', takeNumber: 1 },
      { trackId: 'd', takeNumber: 2 },
    ],
  });
});
