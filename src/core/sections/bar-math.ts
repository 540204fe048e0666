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
