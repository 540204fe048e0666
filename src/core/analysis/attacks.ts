import type { OnsetCurves } from './onsets';

const { abs, max, min, round } = Math;

/** The attacks of a recording, in order: when each begins, and how strong the rise is in the three ranges of {@link OnsetCurves}. */
export interface Attacks {
  /** Seconds; the moment the sound reaches a quarter of its attack's peak. */
  readonly seconds: Float64Array;
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
}

/** Rise (sum of log-compressed bands) below which a peak of the curves is ripple of a noise floor (own). */
export const FAINTEST_RISE = 0.7;
/** Where in its attack a sound counts as begun. */
const BEGUN = 0.25;
const BEFORE_SECONDS = 0.03;
/** The loud part of the attack lies from here … */
const ATTACK_FROM_SECONDS = -0.014;
/** … to here after the peak of the curve. */
const ATTACK_TO_SECONDS = 0.018;

/** How much sound around the peak of a curve {@link beginOf} wants, before and after, seconds. */
export const AROUND_SECONDS = { before: BEFORE_SECONDS + 0.012, after: ATTACK_TO_SECONDS } as const;

/**
 * The moment an attack begins, in samples: where the sound first reaches a quarter of the attack's peak above what rang before.
 * Looked for in the sound itself and in its slope (a hat over a ringing drum stands out there only); the clearer of both is taken.
 * `samples` mono, `peak` = index of the curve's peak. Falls back on `peak` when nothing stands out.
 */
export function beginOf(samples: Float32Array, peak: number, rateHz: number): number {
  const from = max(1, round(peak - AROUND_SECONDS.before * rateHz));
  const attack = max(from, round(peak + ATTACK_FROM_SECONDS * rateHz));
  const to = min(samples.length - 1, round(peak + ATTACK_TO_SECONDS * rateHz));
  let [before, beforeSlope, top, topSlope] = [0, 0, 0, 0];
  for (let i = from; i <= to; i++) {
    const x = abs(samples[i] as number);
    const d = abs((samples[i] as number) - (samples[i - 1] as number));
    if (i < attack) {
      if (x > before) before = x;
      if (d > beforeSlope) beforeSlope = d;
    } else {
      if (x > top) top = x;
      if (d > topSlope) topSlope = d;
    }
  }
  const usesSlope = topSlope * (before + 1e-9) > 2 * top * (beforeSlope + 1e-9);
  const [floor, height] = usesSlope ? [beforeSlope, topSlope] : [before, top];
  if (height <= 1.2 * floor) return peak;
  const threshold = floor + BEGUN * (height - floor);
  for (let i = attack; i <= to; i++) {
    const x = usesSlope
      ? abs((samples[i] as number) - (samples[i - 1] as number))
      : abs(samples[i] as number);
    if (x >= threshold) return i;
  }
  return peak;
}

/** Whether the curves have a peak at `n` worth being called an attack. */
export function isAttack(before: number, here: number, after: number): boolean {
  return here >= FAINTEST_RISE && here > before && here >= after;
}

/** Attacks from curves alone, to a few milliseconds: for recordings heard before attacks were kept. `perSecond`: entries of the curves. */
export function attacksOf({ low, mid, high }: OnsetCurves, perSecond: number): Attacks {
  const at = (i: number): number => (low[i] ?? 0) + (mid[i] ?? 0) + (high[i] ?? 0);
  const found: number[] = [];
  for (let i = 1; i + 1 < low.length; i++) if (isAttack(at(i - 1), at(i), at(i + 1))) found.push(i);
  const seconds = Float64Array.from(found, (i) => {
    const bend = at(i - 1) - 2 * at(i) + at(i + 1);
    return (i + (bend < 0 ? max(-0.5, min(0.5, (0.5 * (at(i - 1) - at(i + 1))) / bend)) : 0)) / perSecond;
  });
  const take = (curve: Float32Array): Float32Array => Float32Array.from(found, (i) => curve[i] as number);
  return { seconds, low: take(low), mid: take(mid), high: take(high) };
}
