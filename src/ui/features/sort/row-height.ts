import { keptChoice } from '@/ui/kit';

/** Heights of rows, by name, px. */
export const ROW_HEIGHTS = { low: 28, middle: 40, tall: 64 } as const;

/** One of {@link ROW_HEIGHTS}. */
export type RowHeight = keyof typeof ROW_HEIGHTS;

const NAMES = ['low', 'middle', 'tall'] as const satisfies readonly RowHeight[];
const kept = keptChoice('fernmoss-row-height', NAMES);

/** The height in force, kept in this browser. */
export const useRowHeight = kept.use;

/** One step lower or taller; at the ends nothing changes. */
export function stepRowHeight(now: RowHeight, by: -1 | 1): void {
  kept.set(NAMES[Math.max(0, Math.min(NAMES.length - 1, NAMES.indexOf(now) + by))] ?? now);
}

/** Chooses a height. */
export const setRowHeight = kept.set;
