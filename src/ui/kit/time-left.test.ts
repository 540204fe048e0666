import { leftText, secondsLeft, withSample } from './time-left';

/** Samples of a job whose progress at each moment is given. */
const run = (...at: readonly (readonly [second: number, progress: number])[]) =>
  at.reduce<ReturnType<typeof withSample>>(
    (samples, [second, progress]) => withSample(samples, { atMs: second * 1000, progress }),
    [],
  );

it('says nothing before it can know, then what is left at the speed of late', () => {
  expect(secondsLeft(run([0, 0]), 20_000)).toBeNull();
  expect(secondsLeft(run([0, 0], [2, 0.1]), 2000)).toBeNull();
  expect(secondsLeft(run([0, 0], [10, 0.1]), 10_000)).toBeCloseTo(90);
  // Twice as fast in the last minute.
  expect(secondsLeft(run([0, 0], [60, 0.1], [120, 0.3]), 120_000)).toBeCloseTo(210);
  // Standing still, it is longer by and by.
  expect(secondsLeft(run([0, 0], [10, 0.1]), 30_000)).toBeCloseTo(270);
});

it('begins anew with a job that does', () => {
  expect(run([0, 0.4], [10, 0.6], [20, 0.1])).toHaveLength(1);
  const once = run([0, 0.4]);
  expect(withSample(once, { atMs: 5, progress: 0.4 })).toBe(once);
});

it.each([
  [3, 'a few seconds left'],
  [31, 'about 40 s left'],
  [58, 'about 1 min left'],
  [200, 'about 3 min left'],
  [7300, 'about 2 h left'],
])('%i s: %s', (seconds, text) => expect(leftText(seconds)).toBe(text));
