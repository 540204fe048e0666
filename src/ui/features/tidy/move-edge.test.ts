import { choiceOfEdge, edgeNear, keptWithEdge, keptWithPiece, withEdge } from './move-edge';
import type { ShownPiece } from './tidy-rows';

const piece = (fromFrames: number, toFrames: number, keeps: boolean): ShownPiece => ({
  ...{ fromFrames, toFrames, keeps, isDoubtful: false },
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

it('an edge of what is cut together is found within its reach, or left', () => {
  expect(keptWithEdge(pieces, { edge: 1010, to: 500, within: 20 })).toEqual([
    expect.objectContaining({ fromFrames: 500, toFrames: 3000 }),
  ]);
  expect(keptWithEdge(pieces, { edge: 1500, to: 500, within: 20 })).toBeNull();
});

it('a piece that stays meets its neighbours without a cut between them; one that goes leaves a gap', () => {
  const more = [...pieces, piece(5000, 6000, true)];
  expect(keptWithPiece(more, 4000, true)).toEqual([{ fromFrames: 1000, toFrames: 6000 }]);
  expect(keptWithPiece(more, 2000, false)).toEqual([{ fromFrames: 5000, toFrames: 6000 }]);
  expect(keptWithPiece(more, 2000, true)).toBeNull();
  expect(keptWithPiece(more, 7000, true)).toBeNull();
  // An edge pulled over a whole gap joins what was apart.
  expect(keptWithEdge(more, { edge: 3000, to: 5000, within: 20 })).toEqual([
    { fromFrames: 1000, toFrames: 6000 },
  ]);
});
