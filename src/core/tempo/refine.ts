import { ONSETS_PER_SECOND } from '../analysis';
import { percentile } from '../dsp';
import { PATH_PER_SECOND } from './beat-path';

const SEARCH_SECONDS = 0.04;

/** Attacks weaker than this share of the song's usual ones are talk, chairs or decay, not the band (own; made sessions with talk). */
const PLAYED = 0.3;

/**
 * Cuts pulses before the music begins and after it ends: the pulse at each end must be played, and so must half of the eight there.
 * `curve` must not be levelled over time, or talk would count as much as the band.
 */
export function trimBeats(beats: readonly number[], curve: Float32Array): number[] {
  const strengths = beats.map((t) => {
    const centre = Math.round(t * PATH_PER_SECOND);
    let peak = 0;
    for (let k = centre - 4; k <= centre + 4; k++) peak = Math.max(peak, curve[k] ?? 0);
    return peak;
  });
  const usual = percentile(strengths, 0.6);
  const heard = strengths.map((s) => s > 0 && s >= PLAYED * usual);
  const span = 8;
  let from = 0;
  const busy = (a: number, b: number): boolean => heard.slice(Math.max(0, a), b).filter(Boolean).length * 2 >= Math.min(span, b - a);
  while (from < beats.length && !(heard[from] && busy(from, from + span))) from++;
  let to = beats.length;
  while (to > from && !(heard[to - 1] && busy(to - span, to))) to--;
  return beats.slice(from, to);
}

/** Moves each pulse to the strongest attack near it, with sub-frame precision; unheard ones stay. */
export function refineBeats(beats: readonly number[], curve: Float32Array): number[] {
  const reach = Math.round(SEARCH_SECONDS * ONSETS_PER_SECOND);
  return beats.map((t) => {
    const centre = t * ONSETS_PER_SECOND;
    const middle = Math.round(centre);
    let best = -1;
    let value = 0.1;
    for (let k = middle - reach; k <= middle + reach; k++) {
      const x = (curve[k] ?? 0) * Math.exp(-0.5 * ((k - centre) / (reach / 2)) ** 2);
      if (x > value) {
        value = x;
        best = k;
      }
    }
    if (best < 0) return t;
    const a = curve[best - 1] ?? 0;
    const b = curve[best] ?? 0;
    const c = curve[best + 1] ?? 0;
    const bend = a - 2 * b + c;
    const shift = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : 0;
    return (best + shift) / ONSETS_PER_SECOND;
  });
}

/** Straight line through the pulses, outliers set aside twice; residuals in seconds. */
function fitLine(beats: readonly number[], keep: (i: number) => boolean = () => true): { offset: number; period: number; residuals: number[]; sigma: number } {
  let kept = beats.map((_, i) => i).filter(keep);
  let offset = 0;
  let period = 0;
  let sigma = 0;
  for (let round = 0; round < 3; round++) {
    const n = kept.length;
    const mx = kept.reduce((a, i) => a + i, 0) / n;
    const my = kept.reduce((a, i) => a + (beats[i] as number), 0) / n;
    let sxx = 0;
    let sxy = 0;
    for (const i of kept) {
      sxx += (i - mx) ** 2;
      sxy += (i - mx) * ((beats[i] as number) - my);
    }
    period = sxy / sxx;
    offset = my - period * mx;
    const residual = (i: number): number => (beats[i] as number) - offset - period * i;
    sigma = Math.sqrt(kept.reduce((a, i) => a + residual(i) ** 2, 0) / Math.max(1, n - 2));
    const limit = Math.max(0.01, 2.5 * sigma);
    const next = kept.filter((i) => Math.abs(residual(i)) <= limit);
    if (next.length < n / 2) break;
    kept = next;
  }
  return { offset, period, residuals: beats.map((t, i) => t - offset - period * i), sigma };
}

/** Slow deviation from one grid that a click-tracked performance does not exceed, s (players wander around a click, but come back). */
const STEADY_WANDER_SECONDS = 0.03;
const STEADY_SPAN = 16;

/** The grid of a session with one tempo; null when the tempo moves. Tempi within their own uncertainty of a half BPM are taken as that. */
export function fitSteady(beats: readonly number[]): { readonly beats: number[]; readonly bpm: number } | null {
  if (beats.length < 32) return null;
  const line = fitLine(beats);
  const slow: number[] = [];
  for (let i = 0; i + STEADY_SPAN <= beats.length; i += STEADY_SPAN / 4) slow.push(percentile(line.residuals.slice(i, i + STEADY_SPAN), 0.5));
  const worst = Math.max(...slow.map(Math.abs));
  if (worst > STEADY_WANDER_SECONDS || percentile(line.residuals.map(Math.abs), 0.9) > 0.045) return null;
  const free = 60 / line.period;
  const error = (free / line.period) * line.sigma * Math.sqrt(12 / beats.length ** 3);
  const round = Math.round(free * 2) / 2;
  const bpm = Math.abs(free - round) <= Math.max(0.012, 3 * error) ? round : free;
  const middle = (beats.length - 1) / 2;
  const anchor = line.offset + line.period * middle;
  return { beats: beats.map((_, i) => anchor + ((i - middle) * 60) / bpm), bpm };
}

const SMOOTH_REACH = 5;

/** Local straight lines over the neighbouring pulses, outliers weighted down: the tempo the players mean, not each finger. */
export function smoothBeats(beats: readonly number[]): number[] {
  return beats.map((_, i) => {
    const from = Math.max(0, i - SMOOTH_REACH);
    const to = Math.min(beats.length - 1, i + SMOOTH_REACH);
    let weights = Array.from({ length: to - from + 1 }, (_, k) => Math.exp(-0.5 * ((from + k - i) / 2.2) ** 2));
    let value = beats[i] as number;
    for (let round = 0; round < 2; round++) {
      const [a, b, c] = fitCurve(beats, from, i, weights);
      value = a;
      weights = weights.map((w, k) => {
        const x = from + k - i;
        const r = (beats[from + k] as number) - (a + b * x + c * x * x);
        return w / (1 + (r / 0.015) ** 2);
      });
    }
    return value;
  });
}

/** Weighted quadratic around pulse `at`: value, slope, bend there. */
function fitCurve(beats: readonly number[], from: number, at: number, weights: readonly number[]): [number, number, number] {
  const s = [0, 0, 0, 0, 0];
  const y = [0, 0, 0];
  weights.forEach((w, k) => {
    const x = from + k - at;
    for (let p = 0; p < 5; p++) s[p] = (s[p] as number) + w * x ** p;
    for (let p = 0; p < 3; p++) y[p] = (y[p] as number) + w * x ** p * (beats[from + k] as number);
  });
  return solve3([[s[0], s[1], s[2]], [s[1], s[2], s[3]], [s[2], s[3], s[4]]] as number[][], y);
}

/** Cramer's rule for three unknowns. */
function solve3(m: readonly (readonly number[])[], y: readonly number[]): [number, number, number] {
  const det = (a: readonly (readonly number[])[]): number => {
    const [r, s, t] = a as [number[], number[], number[]];
    const [a0, a1, a2] = r as [number, number, number];
    const [b0, b1, b2] = s as [number, number, number];
    const [c0, c1, c2] = t as [number, number, number];
    return a0 * (b1 * c2 - b2 * c1) - a1 * (b0 * c2 - b2 * c0) + a2 * (b0 * c1 - b1 * c0);
  };
  const d = det(m);
  return [0, 1, 2].map((col) => det(m.map((row, i) => row.map((x, k) => (k === col ? (y[i] as number) : x)))) / d) as [number, number, number];
}
