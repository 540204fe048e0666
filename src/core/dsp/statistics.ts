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
