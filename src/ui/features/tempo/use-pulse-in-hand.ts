import { useState } from 'react';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { nearestPulse, type TempoModel } from './tempo-model';

/** The pulse at the play position; while something plays it stays, as it is read and worked on. `choose` goes to another. */
export function usePulseInHand(
  model: TempoModel | null,
  position: number,
  onTake: () => void,
): { readonly hand: number; readonly choose: (pulse: number) => void } {
  const player = usePlayer();
  const isPlaying = usePlayerState((s) => s.status === 'playing');
  const atPosition = model ? nearestPulse(model.pulses, position) : 0;
  const [kept, setKept] = useState(0);
  if (!isPlaying && kept !== atPosition) setKept(atPosition);
  const choose = (pulse: number): void => {
    const to = model?.pulses[Math.max(0, Math.min(model.pulses.length - 1, pulse))];
    if (!to) return;
    setKept(Math.max(0, pulse));
    // A hair behind it: the place is shown as this pulse, not as the one before.
    player.seek(Math.max(0, to.seconds + 0.0005));
    onTake();
  };
  return { hand: Math.min(kept, (model?.pulses.length ?? 1) - 1), choose };
}
