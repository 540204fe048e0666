'use client';
import { useEffect, useRef, useState } from 'react';
import { latencyOf } from '@/core/tempo';
import { Button, Kbd, Line, useShortcuts } from '@/ui/kit';
import { formatMs } from './tempo-model';

const CLICKS = 20;
const GAP_SECONDS = 0.6;
/** The first clicks are for finding in. */
const FIRST_COUNTED = 4;

/** Plays a click and measures how late the taps to it come; what was measured is handed on, or null when it was given up. */
export function TapLatency({ onDone }: { readonly onDone: (ms: number | null) => void }) {
  const context = useRef<AudioContext | null>(null);
  const [clicks, setClicks] = useState<readonly number[]>([]);
  const [taps, setTaps] = useState<readonly number[]>([]);
  useEffect(() => () => void context.current?.close(), []);
  const running = clicks.length > 0;
  const begin = (): void => {
    void context.current?.close();
    const audio = new AudioContext({ latencyHint: 'interactive' });
    context.current = audio;
    const moments = Array.from({ length: CLICKS }, (_, i) => audio.currentTime + 0.5 + i * GAP_SECONDS);
    for (const at of moments) {
      const [tone, gain] = [audio.createOscillator(), audio.createGain()];
      tone.frequency.value = 1500;
      gain.gain.setValueAtTime(0.4, at);
      gain.gain.exponentialRampToValueAtTime(0.001, at + 0.03);
      tone.connect(gain).connect(audio.destination);
      tone.start(at);
      tone.stop(at + 0.04);
    }
    setTaps([]);
    setClicks(moments);
  };
  const tap = (): void => {
    const audio = context.current;
    if (!audio || !running) return;
    const { contextTime = 0, performanceTime = 0 } = audio.getOutputTimestamp();
    const tapped =
      performanceTime > 0
        ? contextTime + (performance.now() - performanceTime) / 1000
        : audio.currentTime - (audio.outputLatency || audio.baseLatency || 0);
    setTaps([...taps, tapped]);
  };
  useShortcuts([
    { key: 't', run: tap },
    { key: 'escape', run: () => onDone(null) },
  ]);
  const late = latencyOf(clicks.slice(FIRST_COUNTED), taps);
  return (
    <section aria-label="Measure the latency">
      <h2>How late your taps come</h2>
      <p className="fm-faint">
        A click plays {CLICKS} times. Tap <Kbd>T</Kbd> with it; the first {FIRST_COUNTED} are for finding in.
        What lies between is taken out of every tap from then on.
      </p>
      <p role="status" className="fm-mono">
        {running
          ? late === null
            ? `${taps.length} taps`
            : `${formatMs(late)} over ${taps.length} taps`
          : 'not begun'}
      </p>
      <Line align="start" wraps>
        <Button onClick={begin}>{running ? 'Play again' : 'Play the click'}</Button>
        {running && (
          <Button
            onPointerDown={(e) => {
              e.preventDefault();
              tap();
            }}
          >
            Tap
          </Button>
        )}
        <Button
          tone="main"
          disabled={late === null}
          onClick={() => onDone(late === null ? null : Math.round(1000 * late))}
        >
          Save
        </Button>
        <Button onClick={() => onDone(null)}>Back</Button>
      </Line>
    </section>
  );
}
