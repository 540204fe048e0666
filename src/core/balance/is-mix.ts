import type { MixGram } from './mix-gram';
import { MIX_BANDS } from './mix-spectra';
import { nonNegativeLeastSquares } from './nnls';

/** A file is the mix of the others where they explain so much of it, so many carry a thousandth of it, and not one nearly alone. */
const [LEAST_SHARE, LEAST_TRACKS, LEAST_SPREAD] = [0.7, 3, 1.5];
const CARRIES = 1e-3;
const WEAKEST_BAND = 1e-5;

/** How far a file is the mix of the others. */
export interface MixLikeness {
  readonly share: number;
  /** Others that carry a part of it. */
  readonly carriers: readonly number[];
  /** Effective number of those: 1 = one alone. */
  readonly spread: number;
  readonly isMix: boolean;
}

/** Whether file `k` of a gram (over all files, mono) is the mix of the others, by non-negative least squares with bands weighed alike. Without the sign a track would be the mix less the rest. */
export function mixLikeness(gram: MixGram, k: number): MixLikeness {
  const n = gram.tracks;
  const bands = Array.from({ length: MIX_BANDS }, () => new Float64Array(n * n));
  for (let second = 0; second < gram.seconds; second++)
    bands.forEach((sum, b) => {
      const product = gram.products(0, second, b);
      for (let i = 0; i < n * n; i++) sum[i] = (sum[i] as number) + (product[i] as number);
    });
  const own = bands.map((sum) => sum[k * n + k] as number);
  const least = WEAKEST_BAND * Math.max(...own);
  const others = Array.from({ length: n }, (_, i) => i).filter((i) => i !== k);
  const [a, c] = [new Float64Array(others.length ** 2), new Float64Array(others.length)];
  bands.forEach((sum, b) => {
    const w = (own[b] as number) > 0 ? 1 / Math.max(own[b] as number, least) : 0;
    others.forEach((i, x) => {
      c[x] = (c[x] as number) + w * (sum[i * n + k] as number);
      others.forEach((j, y) => {
        const at = x * others.length + y;
        a[at] = (a[at] as number) + w * (sum[i * n + j] as number);
      });
    });
  });
  const gains = nonNegativeLeastSquares(a, c);
  const total = own.reduce((x, y) => x + y, 0);
  let rest = total;
  const powers = new Float64Array(others.length);
  bands.forEach((sum) =>
    others.forEach((i, x) => {
      const g = gains[x] as number;
      if (g === 0) return;
      rest -= 2 * g * (sum[i * n + k] as number);
      powers[x] = (powers[x] as number) + g * g * (sum[i * n + i] as number);
      others.forEach((j, y) => (rest += g * (gains[y] as number) * (sum[i * n + j] as number)));
    }),
  );
  const share = total > 0 ? Math.max(0, 1 - rest / total) : 0;
  const carriers = others.filter((_, x) => (powers[x] as number) > CARRIES * total);
  const sum = powers.reduce((x, y) => x + y, 0);
  const squares = powers.reduce((x, y) => x + y * y, 0);
  const spread = squares > 0 ? (sum * sum) / squares : 0;
  return {
    share,
    carriers,
    spread,
    isMix: share > LEAST_SHARE && carriers.length >= LEAST_TRACKS && spread >= LEAST_SPREAD,
  };
}
