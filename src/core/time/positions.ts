import type { SongMap } from './song-map';

/** A moment as people read it: bar.pulse, both from 1 (`17.2`). */
export function formatBarPulse(map: SongMap, seconds: number): string {
  const { bar, quartersInBar } = map.meters.toBar(map.tempo.toQuarters(seconds));
  const start = map.meters.barToQuarters(bar);
  const pulse = map.meters.pulsesIn(bar).findLastIndex((q) => q - start <= quartersInBar + 1e-6);
  return `${String(map.meters.numberOf(bar)).replace('-', '−')}.${pulse + 1}`;
}

/** Seconds as m:ss.mmm; `decimals` 0–3 places. */
export function formatClock(seconds: number, decimals = 3): string {
  const scale = 10 ** decimals;
  const total = Math.max(0, Math.round(seconds * scale));
  const minutes = Math.floor(total / (60 * scale));
  const rest = (total - minutes * 60 * scale) / scale;
  return `${minutes}:${rest.toFixed(decimals).padStart(decimals ? 3 + decimals : 2, '0')}`;
}
