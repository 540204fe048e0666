'use client';
import { useEffect, useRef } from 'react';
import { formatBarPulse, type Meter, pulseQuarters } from '@/core/time';
import { Button, useShortcuts } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import type { TempoModel } from './tempo-model';

/** Bar and pulse over the whole window, to be read from across the room. */
export function LargeCounter({
  model,
  onClose,
}: {
  readonly model: TempoModel;
  readonly onClose: () => void;
}) {
  const close = useRef<HTMLButtonElement>(null);
  const place = usePlayerState((s) => formatBarPulse(model.map, s.positionSeconds));
  const tempo = usePlayerState((s) =>
    (
      model.map.tempo.tempoAt(model.map.tempo.toQuarters(s.positionSeconds)) /
      pulseQuarters(model.reading.meters[0] as Meter)
    ).toFixed(1),
  );
  useEffect(() => close.current?.focus(), []);
  useShortcuts([{ key: 'escape', run: onClose }]);
  return (
    <div className="fm-counter" role="dialog" aria-modal="true" aria-label="Large counter">
      <div className="fm-mono fm-counter-place" aria-live="off">
        {place}
      </div>
      <div className="fm-counter-tempo">
        <span className="fm-mono">{tempo}</span> BPM
      </div>
      <Button ref={close} onClick={onClose}>
        Close
      </Button>
    </div>
  );
}
