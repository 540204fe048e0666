import { wholePiece } from '../../../../tests/support/pieces';
import { createRandom } from '@/core/units';
import { aroundCuts, goneCuts, inRow, piecesInRow } from './hear-cuts';

const RATE = 1000;
const whole = { fromFrames: 0, toFrames: 20_000 };
const kept = [
  { fromFrames: 0, toFrames: 3000 },
  { fromFrames: 3400, toFrames: 9000 },
  { fromFrames: 12_000, toFrames: 20_000 },
];

it('hears half a second before and after each cut; places that meet are one; the ends of a track are no cuts', () => {
  expect(aroundCuts(kept, whole, RATE)).toEqual([
    { fromFrames: 2500, toFrames: 3900 },
    { fromFrames: 8500, toFrames: 9500 },
    { fromFrames: 11_500, toFrames: 12_500 },
  ]);
});

it('hears what goes, and nothing else', () => {
  expect(goneCuts(kept, whole)).toEqual([
    { fromFrames: 3000, toFrames: 3400 },
    { fromFrames: 9000, toFrames: 12_000 },
  ]);
  expect(goneCuts([], whole)).toEqual([whole]);
});

it('places in a row are found again on both sides', () => {
  const row = inRow(goneCuts(kept, whole), RATE);
  expect(row.time.toPlayback(3.1)).toBeCloseTo(0.1);
  expect(row.time.toPlayback(10)).toBeCloseTo(0.4 + 0.25 + 1);
  const random = createRandom(3);
  for (let k = 0; k < 200; k++) {
    const place = row.places[Math.floor(random() * row.places.length)]!;
    const at = (place.fromFrames + random() * (place.toFrames - place.fromFrames)) / RATE;
    expect(row.time.toPlayed(row.time.toPlayback(at))).toBeCloseTo(at, 6);
  }
  // Between two places it stands at the end of the one before.
  expect(row.time.toPlayed(0.5)).toBeCloseTo(3.4);
});

it('pieces lie in the row with the sound they had in their place, softened where they are broken off', () => {
  const piece = wholePiece('a', 20_000);
  const laid = piecesInRow([piece], inRow(goneCuts(kept, whole), RATE), RATE);
  expect(laid.map((p) => [p.fromFrames, p.toFrames, p.soundFrames])).toEqual([
    [0, 400, 3000],
    [650, 3650, 9000],
  ]);
  expect(laid.map((p) => [p.fadeIn.frames, p.fadeOut.frames])).toEqual([
    [5, 5],
    [5, 5],
  ]);
});
