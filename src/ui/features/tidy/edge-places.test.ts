import { createSongMap } from '@/core/time';
import { nearestPlace, nextPlace, placesIn, pulseNear } from './edge-places';

const places = [1000, 5000, 9000];

it('finds the nearest, and the next on either side; what is as good as there is passed', () => {
  expect(nearestPlace(5900, places)).toBe(5000);
  expect(nearestPlace(7, [])).toBe(7);
  expect(nextPlace(5000, places, 1, 48_000)).toBe(9000);
  expect(nextPlace(5100, places, -1, 48_000)).toBe(1000);
  expect(nextPlace(9000, places, 1, 48_000)).toBeNull();
});

it('pulses are those of the map', () => {
  const map = createSongMap(
    [
      { quarters: 0, seconds: 0.5 },
      { quarters: 40, seconds: 20.5 },
    ],
    [{ bar: 1, numerator: 4, denominator: 4 }],
  );
  expect(pulseNear(1.1 * 48_000, map, 48_000)).toBe(48_000);
  expect(pulseNear(123, null, 48_000)).toBe(123);
});

it('hits, and where silence begins and ends, are places in a track', () => {
  const piece = (from: number, to: number, keeps: boolean) =>
    ({ from, to, keeps, reason: 'sound', confidence: 1 }) as const;
  const proposal = {
    ...{ id: 't', group: null, floorDbfs: -70, begins: [], ends: [], nothingBecause: null },
    pieces: [piece(0, 50, false), piece(50, 100, true)],
  };
  expect(placesIn({ hits: [1.06], proposal }, { originFrames: -480, rateHz: 48_000 })).toEqual([
    47_520, 50_880,
  ]);
  expect(placesIn({ hits: [], proposal: null }, { originFrames: 0, rateHz: 48_000 })).toEqual([]);
});
