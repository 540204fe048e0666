import { correlationOf, crossSpectrum, Fft, median } from '../dsp';

/** How much two recordings are one sound: windows in which both sound. */
export interface WaveRelation {
  readonly windows: number;
  /** Share of the windows in which one is a copy of the other. */
  readonly copied: number;
  /** Share of those in which they are one performance, copied or not. */
  readonly alike: number;
  /** Correlation of the middle window, whatever the polarity, 0–1. */
  readonly correlation: number;
}

/** Windows are so long, and one may be earlier or later by this, s. */
export const WAVE_WINDOW_SECONDS = 0.25;
const REACH_SECONDS = 0.012;
/** A copy is this like what it was copied from. */
const COPY = 0.995;
/** One performance by two microphones reached 0.95, other takes 0.67 (measured on made ones). */
const ONE_PERFORMANCE = 0.85;

/** Compares two sounds window by window; `a`, `b`: the same stretches of both at one rate, each as long as a window. */
export function waveRelation(
  pairs: Iterable<{ readonly a: Float32Array; readonly b: Float32Array }>,
  rateHz: number,
): WaveRelation {
  const size = 2 ** Math.ceil(Math.log2((WAVE_WINDOW_SECONDS + REACH_SECONDS) * rateHz + 2));
  const fft = new Fft(size);
  const reach = Math.round(REACH_SECONDS * rateHz);
  const found: number[] = [];
  for (const { a, b } of pairs) {
    const scale = Math.sqrt(energyOf(a) * energyOf(b));
    if (scale > 0) found.push(highest(correlationOf(fft, crossSpectrum(fft, a, b)), reach) / scale);
  }
  return {
    windows: found.length,
    copied: found.length > 0 ? found.filter((c) => c > COPY).length / found.length : 0,
    alike: found.length > 0 ? found.filter((c) => c > ONE_PERFORMANCE).length / found.length : 0,
    correlation: found.length > 0 ? Math.min(1, median(found)) : 0,
  };
}

const energyOf = (x: Float32Array): number => x.reduce((sum, v) => sum + v * v, 0);

/** Highest of the correlation within reach, read between its lags. */
function highest(values: Float64Array, reach: number): number {
  const at = (lag: number): number => Math.abs(values[(lag + values.length) % values.length] as number);
  let best = 0;
  for (let lag = -reach; lag <= reach; lag++) if (at(lag) > at(best)) best = lag;
  const bend = at(best - 1) - 2 * at(best) + at(best + 1);
  const slope = at(best - 1) - at(best + 1);
  return bend < 0 ? at(best) - (slope * slope) / (8 * bend) : at(best);
}
