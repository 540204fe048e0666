/** Middle value; NaN for none. Does not change its argument. */
export const median = (values: ArrayLike<number>): number => percentile(values, 0.5);

/** Value below which the share `p` (0–1) lies, linear between neighbours; NaN for none. */
export function percentile(values: ArrayLike<number>, p: number): number {
  if (values.length === 0) return NaN;
  const sorted = Float64Array.from(values).sort();
  const at = p * (sorted.length - 1);
  const low = Math.floor(at);
  const a = sorted[low] as number;
  const b = sorted[Math.min(sorted.length - 1, low + 1)] as number;
  return a + (b - a) * (at - low);
}

/** Pearson's correlation, −1 … 1; the shorter decides, 0 when one of them does not move. */
export function pearson(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const n = Math.min(a.length, b.length);
  let [ma, mb] = [0, 0];
  for (let i = 0; i < n; i++) {
    ma += (a[i] as number) / n;
    mb += (b[i] as number) / n;
  }
  let [aa, ab, bb] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const x = (a[i] as number) - ma;
    const y = (b[i] as number) - mb;
    aa += x * x;
    ab += x * y;
    bb += y * y;
  }
  return aa > 0 && bb > 0 ? ab / Math.sqrt(aa * bb) : 0;
}

// Taken once: looked up each time they cost more than they do where a test runs.
const { PI, log, sin } = Math;
const LANCZOS = [
  676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
  -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
];

/** Logarithm of the gamma function for x > 0, to about 1e-13 of its size. Source: Lanczos' approximation with g = 7, n = 9, from memory; checked against factorials. */
export function logGamma(x: number): number {
  if (x < 0.5) return log(PI / sin(PI * x)) - logGamma(1 - x);
  let sum = 0.99999999999980993;
  LANCZOS.forEach((c, i) => {
    sum += c / (x + i);
  });
  const t = x + 6.5;
  return 0.5 * log(2 * PI) + (x - 0.5) * log(t) - t + log(sum);
}
