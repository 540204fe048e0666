import { majorityRate } from './index';

it('takes the rate most recordings have; a tie leaves things as they are, else the lower wins', () => {
  expect(majorityRate([48_000, 44_100, 48_000], null)).toBe(48_000);
  expect(majorityRate([48_000, 44_100], 48_000)).toBe(48_000);
  expect(majorityRate([96_000, 44_100], null)).toBe(44_100);
  expect(majorityRate([], 44_100)).toBe(44_100);
  expect(majorityRate([], null)).toBeNull();
});
