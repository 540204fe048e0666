import { choiceOfEdge, edgeNear, withEdge } from './move-edge';
import type { ShownPiece } from './tidy-rows';

const piece = (fromFrames: number, toFrames: number, keeps: boolean): ShownPiece => ({
  ...{ fromFrames, toFrames, keeps, isDoubtful: false, isSilenced: false },
  reason: keeps ? 'sound' : 'noise',
  // 1000 frames a second: 20 a level frame.
  span: { from: fromFrames / 20, to: toFrames / 20 },
});
const pieces = [piece(0, 1000, false), piece(1000, 3000, true), piece(3000, 5000, false)];

it('takes hold of the nearest edge, never of an end of the track', () => {
  expect(edgeNear(pieces, 1030, 50)).toBe(1000);
  expect(edgeNear(pieces, 1060, 50)).toBeNull();
  expect(edgeNear(pieces, 10, 50)).toBeNull();
  expect(edgeNear(pieces, 4990, 50)).toBeNull();
});

it('an edge goes no farther than over the whole of its neighbour', () => {
  const at = (to: number): number[][] => withEdge(pieces, 1000, to).map((p) => [p.fromFrames, p.toFrames]);
  expect(at(500)).toEqual([
    [0, 500],
    [500, 3000],
    [3000, 5000],
  ]);
  expect(at(9000)).toEqual([
    [0, 3000],
    [3000, 5000],
  ]);
  expect(at(-5)).toEqual([
    [0, 3000],
    [3000, 5000],
  ]);
  expect(withEdge(pieces, 1234, 0)).toBe(pieces);
});

it.each<[string, number, number, unknown]>([
  ['earlier: what stays grows', 1000, 600, { from: 30, to: 50, keeps: true }],
  ['later: what goes grows', 1000, 1400, { from: 50, to: 70, keeps: false }],
  ['the end of what stays, later', 3000, 3100, { from: 150, to: 155, keeps: true }],
  ['less than a frame of the levels', 1000, 1005, null],
])('pulled %s', (_, edge, to, choice) => {
  expect(choiceOfEdge(pieces, edge, { to, originFrames: 0, rateHz: 1000 })).toEqual(choice);
});
