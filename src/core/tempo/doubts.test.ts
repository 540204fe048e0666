import { createRandom } from '../units';
import { loosePassages } from './doubts';

const random = createRandom(31);
const beats = Array.from({ length: 80 }, (_, i) => 1 + 0.5 * i);
/** How far hits are from pulses: `loose` for those in the passage, 3 ms on the whole elsewhere. */
const off = (isLoose: (i: number) => boolean, loose: () => number): number[] =>
  beats.map((_, i) => (isLoose(i) ? loose() : 0.006 * random()));

describe('passages in which nothing keeps to the pulse', () => {
  it('are found from the first to the last such pulse, also when some are met by chance or nothing is heard there', () => {
    expect(
      loosePassages(
        beats,
        off(
          (i) => i < 20,
          () => 0.02 + 0.03 * random(),
        ),
      ),
    ).toEqual([{ from: 1, to: expect.closeTo(1 + 0.5 * 23, 0) as number }]);
    const sparse = off(
      (i) => i >= 40 && i < 60,
      () => 0.03,
    ).map((x, i) => (i % 3 === 0 ? NaN : i === 50 ? 0.001 : x));
    expect(loosePassages(beats, sparse)).toHaveLength(1);
    const [only] = loosePassages(beats, sparse);
    expect(only?.from).toBeLessThanOrEqual(1 + 0.5 * 41);
    expect(only?.to).toBeGreaterThanOrEqual(1 + 0.5 * 59);
  });

  it('are none where all play so, where a few pulses are off, or where nothing is heard at all', () => {
    expect(
      loosePassages(
        beats,
        beats.map(() => 0.03 * random()),
      ),
    ).toEqual([]);
    expect(
      loosePassages(
        beats,
        off(
          (i) => i === 30 || i === 60,
          () => 0.02,
        ),
      ),
    ).toEqual([]);
    expect(
      loosePassages(
        beats,
        beats.map(() => NaN),
      ),
    ).toEqual([]);
  });
});
