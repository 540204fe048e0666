'use client';
import { useState } from 'react';
import { fitted, type Sight, type WaveWindow } from '@/ui/kit';

/** Nearest stretch of the plot, s. */
const NEAREST_SECONDS = 4;
/** A near look shows so many times the stretch of the lanes. */
const AROUND = 4;

/** The stretch the plot shows: the whole song at first. */
export function usePlotWindow(
  length: number,
  lanes: WaveWindow,
): Sight & {
  readonly isWhole: boolean;
  /** The whole song, or around what the lanes show. */
  readonly turn: () => void;
} {
  const limits = { lengthSeconds: length, shortestSeconds: NEAREST_SECONDS };
  const [near, setNear] = useState<WaveWindow | null>(null);
  const window = fitted(near ?? { from: 0, to: length }, limits);
  const isWhole = window.to - window.from >= length - 1e-6;
  return {
    window,
    limits,
    isWhole,
    change: (make) => setNear(make(window)),
    turn: () => {
      const wide = ((AROUND - 1) / 2) * (lanes.to - lanes.from);
      setNear(isWhole ? { from: lanes.from - wide, to: lanes.to + wide } : null);
    },
  };
}
