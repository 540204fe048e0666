import { createRandom } from '../units';
import { CHROMA_PER_SECOND, type RhythmCurves, moveOnsets, ONSETS_PER_SECOND, PITCH_CLASSES } from './index';
import { rhythmOfPieces } from './rhythm-pieces';

const random = createRandom(3);
const noise = (n: number): Float32Array => Float32Array.from({ length: n }, random);
/** Ten seconds with an attack each half second. */
const HEARD: RhythmCurves = {
  low: noise(10 * ONSETS_PER_SECOND),
  mid: noise(10 * ONSETS_PER_SECOND),
  high: noise(10 * ONSETS_PER_SECOND),
  attacks: {
    seconds: Float64Array.from({ length: 20 }, (_, i) => i / 2),
    low: noise(20),
    mid: noise(20),
    high: noise(20),
  },
  chroma: noise(10 * CHROMA_PER_SECOND * PITCH_CLASSES),
};

it('of one whole piece is what was heard', () => {
  expect(rhythmOfPieces([{ rhythm: HEARD, fromSeconds: 0, toSeconds: 10 }])).toEqual(HEARD);
});

it('of a recording cut in two is the same without what was cut away', () => {
  const cut = rhythmOfPieces([
    { rhythm: HEARD, fromSeconds: 0, toSeconds: 3 },
    { rhythm: HEARD, fromSeconds: 5, toSeconds: 10 },
  ]);
  expect([...cut.attacks.seconds].filter((t) => t >= 3 && t < 5)).toEqual([]);
  expect(cut.attacks.seconds).toHaveLength(16);
  const at = (x: Float32Array, seconds: number): number =>
    x[Math.round(seconds * ONSETS_PER_SECOND)] as number;
  for (const name of ['low', 'mid', 'high'] as const) {
    expect(at(cut[name], 4)).toBe(0);
    expect(at(cut[name], 2)).toBe(at(HEARD[name], 2));
    expect(at(cut[name], 7)).toBe(at(HEARD[name], 7));
  }
  const row = (seconds: number): number[] =>
    [...cut.chroma].slice(seconds * CHROMA_PER_SECOND * PITCH_CLASSES).slice(0, PITCH_CLASSES);
  expect(row(4)).toEqual(Array.from({ length: PITCH_CLASSES }, () => 0));
  expect(Math.max(...row(6))).toBeGreaterThan(0);
});

it('of takes that change places has each one’s attacks where it sounds, with its levels', () => {
  const other = moveOnsets(HEARD, 0.25);
  const joined = rhythmOfPieces([
    { rhythm: HEARD, fromSeconds: 0, toSeconds: 2 },
    { rhythm: other, fromSeconds: 2, toSeconds: 4 },
  ]);
  expect([...joined.attacks.seconds]).toEqual([0, 0.5, 1, 1.5, 2.25, 2.75, 3.25, 3.75]);
  expect(joined.attacks.low[4]).toBe(HEARD.attacks.low[4]);
});

it('of nothing is silent', () => {
  expect(rhythmOfPieces([]).attacks.seconds).toHaveLength(0);
});
