import { createRandom } from '../units';
import { novelty, repeatEdge } from './cues';

/** A likeness of bars with letters: alike where the letters are, a little noise. */
function likeOf(letters: string, noise = 0): { readonly s: Float32Array; readonly count: number } {
  const random = createRandom(3);
  const count = letters.length;
  const s = new Float32Array(count * count);
  for (let i = 0; i < count; i++)
    for (let j = 0; j <= i; j++)
      s[i * count + j] = s[j * count + i] = Number(letters[i] === letters[j]) + noise * (random() - 0.5);
  return { s, count };
}

/** As `repeatEdge`, pair by pair. */
function plainRepeatEdge(s: Float32Array, count: number, step: 1 | -1): number[] {
  return Array.from({ length: count }, (_, at) => {
    if (at === 0) return 0;
    const edges: number[] = [0, 0];
    for (let other = 0; other <= count; other++) {
      if (Math.abs(other - at) < 4) continue;
      const side = (way: 1 | -1): number[] =>
        [0, 1, 2, 3].flatMap((d) => {
          const [a, b] = way === 1 ? [at + d, other + d] : [at - 1 - d, other - 1 - d];
          return Math.min(a, b) < 0 || Math.max(a, b) >= count ? [] : [s[a * count + b] as number];
        });
      const [inside, outside] = [side(step), side(step === 1 ? -1 : 1)];
      if (inside.length < 4) continue;
      const mean = (x: number[]): number => x.reduce((p, q) => p + q, 0) / x.length;
      edges.push(mean(inside) - mean(outside.length > 0 ? outside : [...s]));
    }
    edges.sort((a, b) => b - a);
    return ((edges[0] as number) + (edges[1] as number)) / 2;
  });
}

it('sees where what is alike ends: by the checkerboard', () => {
  const { s, count } = likeOf('aaaabbbbaaaa');
  const found = novelty(s, count, 4);
  expect([...found].map((x, i) => [x, i] as const).filter(([x]) => x === 1)).toEqual([
    [1, 4],
    [1, 8],
  ]);
  expect(found[2]).toBeLessThan(0.6);
});

it('tells the beginnings and ends of what comes again as the plain way does', () => {
  const { s, count } = likeOf('abcdefghxyzwabcdefghuvabcdefgh', 0.4);
  for (const step of [1, -1] as const) {
    const fast = repeatEdge(s, count, step);
    plainRepeatEdge(s, count, step).forEach((x, i) => expect(fast[i]).toBeCloseTo(x, 5));
  }
  const begins = repeatEdge(likeOf('abcdefghxyzwabcdefghuvabcdefgh').s, count, 1);
  expect([...begins].flatMap((x, i) => (x > 0.8 ? [i] : []))).toEqual([12, 22]);
});
