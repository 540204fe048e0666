'use client';
import { useState } from 'react';
import { useKeptNumber } from '@/ui/client';
import { fitted, type Sight } from '@/ui/kit';

/** Nearest stretch of the lanes, and the one they begin with, s. */
const [NEAREST_SECONDS, FIRST_SECONDS] = [1.5, 9];
/** Where in the stretch the play position stands while it is followed. */
const AT_SHARE = 0.25;

/** The stretch the lanes show: it goes along with the play position, or stands where it was moved to until that moves. Its length is kept over reloads, in this tab. */
export function useLanesWindow(
  sessionId: string,
  length: number,
  position: number,
): Sight & {
  /** Nearer (below 1) or farther, with the play position where it is. */
  readonly zoom: (factor: number) => void;
} {
  const limits = { lengthSeconds: length, shortestSeconds: NEAREST_SECONDS };
  const [span, keep] = useKeptNumber(`fernmoss-tempo-span-${sessionId}`, FIRST_SECONDS, NEAREST_SECONDS);
  const [stands, setStands] = useState<{ readonly from: number; readonly position: number } | null>(null);
  const from = stands?.position === position ? stands.from : position - span * AT_SHARE;
  const shown = fitted({ from, to: from + span }, limits);
  return {
    window: shown,
    limits,
    change: (make) => {
      const next = make(shown);
      keep(next.to - next.from);
      setStands({ from: next.from, position });
    },
    zoom: (factor) => {
      keep(Math.max(NEAREST_SECONDS, Math.min(length, span * factor)));
      setStands(null);
    },
  };
}
