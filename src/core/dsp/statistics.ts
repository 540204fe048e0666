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
