import { createSongMap } from '@/core/time';
import { distanceText } from './distance-text';

it('says a distance in all units, its sign once', () => {
  const map = createSongMap(
    [
      { quarters: 0, seconds: 0 },
      { quarters: 4, seconds: 2 },
    ],
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
  const origin = { map, fromSeconds: 0, rateHz: 48_000 };
  expect(distanceText(origin, 192_000)).toBe('+2 bars · 8 pulses · 4 s · 192,000 samples');
  expect(distanceText(origin, -24_000)).toBe('−0.25 bars · 1 pulse · 0.5 s · 24,000 samples');
  expect(distanceText({ ...origin, map: null }, 1)).toBe('+0.000021 s · 1 sample');
});
