import { soundOf, struck, TIDY_RATE } from '../../../tests/support/tidy-sounds';
import { BEGIN_REACH_SECONDS, beginningIn, crossingNear } from './edges';

const [before, after] = BEGIN_REACH_SECONDS;

it.each([-0.03, 0, 0.02, 0.06])(
  'finds the beginning of a struck sound %f s beside the frame to 2 ms',
  (beside) => {
    const sound = soundOf(before + after, (t, n) => 2e-4 * n() + 0.2 * struck(t - before - beside, 330, 1));
    const found = beginningIn([sound], TIDY_RATE);
    expect(Math.abs((found as number) / TIDY_RATE - before - beside)).toBeLessThan(0.002);
  },
);

it('says nothing of what comes in softly, or not at all', () => {
  const swell = soundOf(before + after, (t, n) => 2e-3 * n() + 0.02 * t * Math.sin(1400 * t));
  expect(beginningIn([swell], TIDY_RATE)).toBeNull();
  expect(beginningIn([new Float32Array(12_000)], TIDY_RATE)).toBeNull();
  expect(beginningIn([new Float32Array(3)], TIDY_RATE)).toBeNull();
});

it('moves to the nearest place where the sum of the channels crosses zero', () => {
  const wave = Float32Array.from({ length: 200 }, (_, i) => Math.sin((2 * Math.PI * (i + 0.5)) / 50));
  expect(crossingNear([wave], 90)).toBe(100);
  expect(crossingNear([wave, wave], 112)).toBe(100);
  expect(crossingNear([new Float32Array(50).fill(1)], 20)).toBe(20);
  expect(crossingNear([], 5)).toBe(5);
});
