import { plainTrack } from '../../../../tests/support/random-edits';
import type { BalanceResult, RecordingView } from '@/contracts';
import { applyChanges, emptySession, isTrack, type SessionState, soundTracks } from '@/core/session';
import { balanceChanges, cameSince, loudnessOf, stripIn } from './levels';

const made = applyChanges(emptySession('s'), [
  ...['a', 'b', 'c', 'mix'].map((id, index) => ({
    kind: 'track.add' as const,
    track: { ...plainTrack(id), recordingId: `r-${id}` },
    parentId: 'root',
    index,
  })),
  {
    kind: 'groups.set',
    groups: [{ id: 'g', name: 'G', trackIds: ['b'], on: true, gainDb: -3, byHand: false }],
  },
]);
if (!made.ok) throw new Error(made.code);
const session: SessionState = made.session;
const result: BalanceResult = {
  ...{ revision: 1, mixTrackId: 'mix', explained: 0.9, laterSeconds: 0, isInverted: false },
  ...{ isMonoMix: false, peakDbfs: -6, missing: [] },
  tracks: [
    {
      trackId: 'a',
      pieceGainDb: 0,
      rough: { gainDb: -4.04, pan: 0.333 },
      mix: { gainDb: -7, pan: -0.5, changes: [] },
    },
    {
      trackId: 'b',
      pieceGainDb: 0,
      rough: { gainDb: -200, pan: 0 },
      mix: { gainDb: -2, pan: 0, changes: [] },
    },
    { trackId: 'c', pieceGainDb: 0, rough: { gainDb: 1, pan: 0 }, mix: null },
  ],
};
const after = (balance: Parameters<typeof balanceChanges>[0], of = session): SessionState => {
  const done = applyChanges(of, balanceChanges(balance, { session: of, balance: result }));
  if (!done.ok) throw new Error(done.code);
  return done.session;
};
const levels = (of: SessionState): (number | boolean)[][] =>
  soundTracks(of).map((t) => [t.gainDb, t.pan, t.muted]);

it('takes the rough balance, as far as levels go, with those of groups; the mix itself stays', () => {
  expect(levels(after('rough'))).toEqual([
    [-4, 0.33, false],
    [-120, 0, false],
    [1, 0, false],
    [0, 0, false],
  ]);
});

it('a balance that is taken leaves buses as neutral as they were when it was heard; what is muted stays so', () => {
  const done = applyChanges(session, [
    {
      kind: 'bus.add',
      bus: { id: 'bus', name: 'B', color: null, outputBusId: null, gainDb: -5, pan: 0.5, muted: true },
      index: 0,
    },
  ]);
  if (!done.ok) throw new Error(done.code);
  for (const balance of ['neutral', 'rough', 'mix'] as const)
    expect(after(balance, done.session).buses.bus).toMatchObject({ gainDb: 0, pan: 0, muted: true });
  expect(after('now', done.session).buses.bus).toMatchObject({ gainDb: -5, pan: 0.5 });
});

it('with the levels of the mix what it says nothing of is muted, as it was heard', () => {
  const taken = after('mix');
  expect(levels(taken)).toEqual([
    [-7, -0.5, false],
    // −2 dB with the −3 dB of its group.
    [1, 0, false],
    [0, 0, true],
    [0, 0, false],
  ]);
  // What stands then is what was heard.
  const b = taken.nodes.b;
  expect(isTrack(b) && stripIn('now', b, { session: taken, result })?.gainDb).toBe(-2);
  expect(balanceChanges('mix', { session: taken, balance: result })).toEqual([]);
});

it('neutral takes every level and pan back, and leaves groups alone', () => {
  expect(levels(after('neutral', after('rough')))).toEqual(levels(session));
  expect(balanceChanges('neutral', { session, balance: null })).toEqual([]);
});

it('adds loudness by power, of what is heard', () => {
  const recordings = ['a', 'b', 'c'].map(
    (id) => ({ id: `r-${id}`, facts: { integratedLufs: id === 'c' ? null : -20 } }) as RecordingView,
  );
  const tracks = soundTracks(session).slice(0, 3);
  const at = (gains: readonly (number | null)[]): number | null =>
    loudnessOf(
      tracks,
      gains.map((gainDb) => (gainDb === null ? null : { gainDb, pan: 0 })),
      recordings,
    );
  expect(at([0, 0, 0])).toBeCloseTo(-20 + 10 * Math.log10(2));
  expect(at([-6, null, 0])).toBeCloseTo(-26);
  expect(at([null, null, 0])).toBeNull();
});

it('levels that were worked out hold for what was matched since', () => {
  const made = applyChanges(session, [
    {
      kind: 'track.cut',
      id: 'a',
      clips: soundTracks(session)[0]?.clips.map((c) => ({ ...c, gainDb: 5 })) ?? [],
    },
  ]);
  if (!made.ok) throw new Error(made.code);
  expect(levels(after('rough', made.session))[0]).toEqual([-9, 0.33, false]);
});

it('counts what pieces are turned up by', () => {
  const [a] = soundTracks(session);
  if (!a) throw new Error('no track');
  const louder = { ...a, clips: a.clips.map((c) => ({ ...c, gainDb: 6 })) };
  const recordings = [{ id: 'r-a', facts: { integratedLufs: -20 } } as RecordingView];
  expect(loudnessOf([louder], [{ gainDb: -2, pan: 0 }], recordings)).toBeCloseTo(-16);
});

it('knows which tracks levels were not worked out for', () => {
  expect(cameSince(session, result)).toEqual([]);
  const few = { ...result, tracks: result.tracks.slice(0, 1) };
  expect(cameSince(session, few).map((t) => t.id)).toEqual(['b', 'c']);
  const muted = applyChanges(session, [{ kind: 'track.change', id: 'c', fields: { muted: true } }]);
  if (!muted.ok) throw new Error(muted.code);
  expect(cameSince(muted.session, few).map((t) => t.id)).toEqual(['b']);
});
