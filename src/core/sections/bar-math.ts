/** Value below which the share `p` of the values lies; 0 for none. */
export function percentile(values: ArrayLike<number>, p: number): number {
  if (values.length === 0) return 0;
  const sorted = Float64Array.from(values).sort();
  return sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))] as number;
}

export const median = (values: ArrayLike<number>): number => percentile(values, 0.5);

export const mean = (values: ArrayLike<number>): number => {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i] as number;
  return values.length === 0 ? 0 : sum / values.length;
};

export const clip = (x: number, low: number, high: number): number => Math.max(low, Math.min(high, x));

/** log(e^a + e^b + …), the largest taken out first. */
export function logSum(values: readonly number[]): number {
  const top = Math.max(...values);
  if (top === -Infinity) return top;
  return top + Math.log(values.reduce((sum, v) => sum + Math.exp(v - top), 0));
}

export const logistic = (x: number): number => 1 / (1 + Math.exp(-x));
