import { useMemo, useState } from 'react';
import { usePlayer } from '@/ui/listening';
import type { TempoModel } from './tempo-model';

/** What was tapped and is no map yet; one of them may be in hand. */
export interface Taps {
  /** Rising, s from the session's common zero. */
  readonly seconds: readonly number[];
  /** -1 = none. */
  readonly hand: number;
  readonly set: (seconds: readonly number[]) => void;
  readonly add: (seconds: number) => void;
  /** Takes one in hand and goes there. */
  readonly choose: (index: number) => void;
  readonly move: (index: number, seconds: number) => void;
  readonly remove: (index: number) => void;
  /** Takes the next or the one before; without one in hand the last. */
  readonly step: (by: 1 | -1) => void;
  /** As pulses are drawn and taken hold of. */
  readonly marks: TempoModel['pulses'];
}

const NONE = -1;

export function useTaps(): Taps {
  const player = usePlayer();
  const [{ seconds, hand }, setTaps] = useState<Pick<Taps, 'seconds' | 'hand'>>({ seconds: [], hand: NONE });
  const marks = useMemo(
    () => seconds.map((at) => ({ seconds: at, confidence: 1, pinned: false })),
    [seconds],
  );
  const choose = (index: number): void => {
    const to = Math.max(0, Math.min(seconds.length - 1, index));
    const at = seconds[to];
    if (at === undefined) return;
    setTaps((before) => ({ ...before, hand: to }));
    player.seek(Math.max(0, at));
  };
  return {
    seconds,
    hand,
    marks,
    choose,
    step: (by) => choose(hand < 0 ? seconds.length - 1 : hand + by),
    set: (all) => setTaps({ seconds: [...all].sort((a, b) => a - b), hand: NONE }),
    add: (at) =>
      setTaps((before) => ({ seconds: [...before.seconds, at].sort((a, b) => a - b), hand: NONE })),
    move: (index, at) =>
      setTaps((before) => {
        const moved = before.seconds.map((t, i) => (i === index ? Math.max(0, at) : t)).sort((a, b) => a - b);
        return { seconds: moved, hand: moved.indexOf(Math.max(0, at)) };
      }),
    remove: (index) =>
      setTaps((before) => {
        const left = before.seconds.filter((_, i) => i !== index);
        return { seconds: left, hand: Math.min(index, left.length - 1) };
      }),
  };
}
