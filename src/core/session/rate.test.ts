import { plainTrack } from '../../../tests/support/random-edits';
import {
  applyChanges,
  emptySession,
  keepSamplesEdits,
  keptRecordings,
  majorityRate,
  passingRate,
  rateEdits,
  repitch,
  ROOT,
  type Track,
} from './index';

it('takes the rate most recordings have; a tie leaves things as they are, else the lower wins', () => {
  expect(majorityRate([48_000, 44_100, 48_000], null)).toBe(48_000);
  expect(majorityRate([48_000, 44_100], 48_000)).toBe(48_000);
  expect(majorityRate([96_000, 44_100], null)).toBe(44_100);
  expect(majorityRate([], 44_100)).toBe(44_100);
  expect(majorityRate([], null)).toBeNull();
});

it('takes a session to another rate and back exactly, wherever its tracks begin', () => {
  const made = applyChanges(
    { ...emptySession('x'), sampleRateHz: 48_000 },
    [-48_000, 0, 12_345].map((startFrames, index) => ({
      kind: 'track.add',
      track: { ...plainTrack(`t${index}`), startFrames },
      parentId: ROOT,
      index,
    })),
  );
  if (!made.ok) throw new Error(made.code);
  const there = applyChanges(made.session, rateEdits(made.session, 44_100));
  if (!there.ok) throw new Error(there.code);
  expect([0, 1, 2].map((i) => (there.session.nodes[`t${i}`] as Track).startFrames)).toEqual([
    -44_100,
    0,
    Math.round((12_345 * 44_100) / 48_000),
  ]);
  const back = applyChanges(there.session, there.inverse);
  expect(back.ok && back.session).toEqual(made.session);
  expect(rateEdits(made.session, 48_000)).toEqual([]);
});

it('keeps the samples of chosen recordings: they pass at the rate of the session; conversion and undo bring them back', () => {
  const made = applyChanges(
    { ...emptySession('x'), sampleRateHz: 48_000 },
    ['a', 'b'].map((id, index) => ({
      kind: 'track.add',
      track: { ...plainTrack(id), startFrames: 100 },
      parentId: ROOT,
      index,
    })),
  );
  if (!made.ok) throw new Error(made.code);
  const kept = applyChanges(made.session, keepSamplesEdits(made.session, new Set(['r-b']), true));
  if (!kept.ok) throw new Error(kept.code);
  expect([...keptRecordings(kept.session)]).toEqual(['r-b']);
  const b = kept.session.nodes.b as Track;
  expect(b.startFrames).toBe(100);
  expect([
    passingRate(b, 44_100, 48_000),
    passingRate(made.session.nodes.b as Track, 44_100, 48_000),
    passingRate(b, 44_100, null),
  ]).toEqual([48_000, 44_100, 44_100]);
  expect(keepSamplesEdits(kept.session, new Set(['r-b']), true)).toEqual([]);
  const back = applyChanges(kept.session, kept.inverse);
  expect(back.ok && back.session).toEqual(made.session);
});

// An octave is twelve semitones and a factor of two; 48/44.1 = 160/147 (arithmetic, by hand: 1200·log2(160/147) = 146.7 cents).
it('says speed and pitch of samples at another rate', () => {
  expect(repitch(48_000, 96_000)).toEqual({ factor: 2, semitones: 12 });
  expect(repitch(44_100, 48_000).factor).toBeCloseTo(160 / 147, 12);
  expect(repitch(44_100, 48_000).semitones).toBeCloseTo(1.467, 3);
  expect(repitch(48_000, 44_100).semitones).toBeCloseTo(-1.467, 3);
});
