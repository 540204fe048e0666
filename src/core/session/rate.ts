/** The sample rate most recordings have, Hz; a tie leaves the session as it is, else the lower wins; `current` when there are none. */
export function majorityRate(ratesHz: readonly number[], current: number | null): number | null {
  const counts = new Map<number, number>();
  for (const rate of ratesHz) counts.set(rate, (counts.get(rate) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || Number(b[0] === current) - Number(a[0] === current) || a[0] - b[0]);
  return best?.[0] ?? current;
}
