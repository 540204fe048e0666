'use client';
import { formatClock } from '@/core/time';
import { keptChoice } from './kept-choice';

/** How times and lengths are written: `1:23.456` or `83.456 s`. */
export const TIME_UNITS = ['minutes', 'seconds'] as const;
export type TimeUnit = (typeof TIME_UNITS)[number];

const kept = keptChoice('fernmoss-time-unit', TIME_UNITS);

/** The unit in force. */
export const useTimeUnit = kept.use;
/** Chooses one, for this browser. */
export const setTimeUnit = kept.set;

/** Writes a number of seconds with so many decimals (3 unless said). */
export type WriteClock = (seconds: number, decimals?: number) => string;

const WRITERS: Readonly<Record<TimeUnit, WriteClock>> = {
  minutes: formatClock,
  seconds: (seconds, decimals = 3) => `${Math.max(0, seconds).toFixed(decimals)} s`,
};

/** Writes times in the unit in force. */
export const useClock = (): WriteClock => WRITERS[useTimeUnit()];

/** A time or a length in the unit in force. */
export function Clock({ seconds, decimals }: { readonly seconds: number; readonly decimals?: number }) {
  return useClock()(seconds, decimals);
}
