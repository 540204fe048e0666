import type { Edit } from './edits';
import type { SessionState } from './state';
import { tracksInOrder } from './views';

/** The sample rate most recordings have, Hz; a tie leaves the session as it is, else the lower wins; `current` when there are none. */
export function majorityRate(ratesHz: readonly number[], current: number | null): number | null {
  const counts = new Map<number, number>();
  for (const rate of ratesHz) counts.set(rate, (counts.get(rate) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || Number(b[0] === current) - Number(a[0] === current) || a[0] - b[0]);
  return best?.[0] ?? current;
}

/** The session at another rate: every track stays where it is in time, to the nearest frame. What is to be converted follows from it; files and recordings stay. */
export function rateEdits(session: SessionState, toHz: number): Edit[] {
  const from = session.sampleRateHz;
  if (from === toHz) return [];
  const moved = from === null ? [] : tracksInOrder(session).filter((t) => t.startFrames !== 0);
  return [{ kind: 'session.rate', sampleRateHz: toHz }, ...moved.map((t): Edit => ({ kind: 'track.change', id: t.id, fields: { startFrames: Math.round((t.startFrames * toHz) / (from as number)) } }))];
}
