import { plainTrack } from '../../../tests/support/random-edits';
import { applyEdits, emptySession, majorityRate, rateEdits, ROOT, type Track } from './index';

it('takes the rate most recordings have; a tie leaves things as they are, else the lower wins', () => {
  expect(majorityRate([48_000, 44_100, 48_000], null)).toBe(48_000);
  expect(majorityRate([48_000, 44_100], 48_000)).toBe(48_000);
  expect(majorityRate([96_000, 44_100], null)).toBe(44_100);
  expect(majorityRate([], 44_100)).toBe(44_100);
  expect(majorityRate([], null)).toBeNull();
});

it('takes a session to another rate and back exactly, wherever its tracks begin', () => {
  const made = applyEdits({ ...emptySession('x'), sampleRateHz: 48_000 }, [-48_000, 0, 12_345].map((startFrames, index) => ({ kind: 'track.add', track: { ...plainTrack(`t${index}`), startFrames }, parentId: ROOT, index })));
  if (!made.ok) throw new Error(made.code);
  const there = applyEdits(made.session, rateEdits(made.session, 44_100));
  if (!there.ok) throw new Error(there.code);
  expect([0, 1, 2].map((i) => (there.session.nodes[`t${i}`] as Track).startFrames)).toEqual([-44_100, 0, Math.round((12_345 * 44_100) / 48_000)]);
  const back = applyEdits(there.session, there.inverse);
  expect(back.ok && back.session).toEqual(made.session);
  expect(rateEdits(made.session, 48_000)).toEqual([]);
});
