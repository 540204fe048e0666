import { createRandom } from '../units';
import { borderPath, spanScore } from './border-path';

/** Every way over the lines of a short song, plainly. */
function allWays(odds: readonly number[]): { readonly begins: number[]; readonly score: number }[] {
  const count = odds.length;
  return Array.from({ length: 2 ** (count - 1) }, (_, bits) => {
    const begins = [
      0,
      ...Array.from({ length: count - 1 }, (_x, i) => i + 1).filter((i) => bits & (1 << (i - 1))),
    ];
    const score = begins.reduce((sum, from, k) => {
      const to = begins[k + 1] ?? count;
      return sum + spanScore(from, to, count) + (to === count ? 0 : (odds[to] as number) + 0.2);
    }, 0);
    return { begins, score };
  });
}

it('takes the best of all ways, and says of each line how likely it begins a section', () => {
  const random = createRandom(5);
  for (let n = 0; n < 30; n++) {
    const count = 2 + Math.floor(10 * random());
    const odds = Array.from({ length: count }, () => 8 * random() - 6);
    const { begins, likely } = borderPath(odds);
    const ways = allWays(odds);
    const best = ways.reduce((a, b) => (b.score > a.score ? b : a));
    expect(begins).toEqual(best.begins);
    const total = ways.reduce((sum, w) => sum + Math.exp(w.score), 0);
    for (let at = 1; at < count; at++) {
      const own = ways.filter((w) => w.begins.includes(at)).reduce((sum, w) => sum + Math.exp(w.score), 0);
      expect(likely[at]).toBeCloseTo(own / total, 6);
    }
  }
});

it('has one section where no line speaks for itself, and none where there are no bars', () => {
  expect(borderPath([-9, -9, -9, -9]).begins).toEqual([0]);
  expect(borderPath([]).begins).toEqual([]);
  expect(borderPath(new Array<number>(200).fill(-Infinity)).begins[0]).toBe(0);
});

it('prefers usual lengths where two lines are as likely', () => {
  const odds = new Array<number>(24).fill(-8);
  odds[8] = odds[9] = 1;
  odds[16] = 3;
  expect(borderPath(odds).begins).toEqual([0, 8, 16]);
});
