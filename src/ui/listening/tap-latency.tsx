'use client';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { latencyOf } from '@/core/tempo';
import { Button, formatMs, Kbd, Line, useShortcuts } from '@/ui/kit';

const CLICKS = 20;
const GAP_SECONDS = 0.6;
/** The first clicks are for finding in. */
const FIRST_COUNTED = 4;

/** Where the measured latency is kept in this browser, ms. */
const LATENCY_KEY = 'fernmoss.tap-latency';
/** More is no latency but another beat, ms. */
const MOST_MS = 1000;
const listeners = new Set<() => void>();
const keptLatency = (): number => {
  const ms = Number(window.localStorage.getItem(LATENCY_KEY));
  return Math.abs(ms) <= MOST_MS ? ms : 0;
};

/** How late taps come in this browser, ms; 0 until it is measured. */
export const useTapLatency = (): number =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    keptLatency,
    () => 0,
  );

export function setTapLatency(ms: number): void {
  window.localStorage.setItem(LATENCY_KEY, String(ms));
  listeners.forEach((l) => l());
}

/** Plays a click, measures how late the taps to it come, and keeps that. */
export function MeasureTapLatency({ onDone }: { readonly onDone: () => void }) {
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
    { key: 'escape', run: onDone },
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
          onClick={() => {
            if (late !== null) setTapLatency(Math.round(1000 * late));
            onDone();
          }}
        >
          Save
        </Button>
        <Button onClick={onDone}>Back</Button>
      </Line>
    </section>
  );
}

/** The latency in words. */
export const latencyText = (ms: number): string => (ms === 0 ? '0 ms' : formatMs(ms / 1000));
