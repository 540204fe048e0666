import { ONSETS_PER_SECOND } from '../analysis';
import { median, percentile } from '../dsp';
import { err, ok, type ProgressSink, type Result } from '../units';
import { findBars } from './bars';
import { findBeatPath, PATH_PER_SECOND } from './beat-path';
import type { TempoReading, TempoTrack } from './reading';
import { refineBeats, fitSteady, smoothBeats, trimBeats } from './refine';
import { chooseTimekeepers, trackNovelty } from './timekeepers';

/** Why no tempo was found. */
export interface TempoFault {
  readonly code: 'tempo.no_timekeepers' | 'tempo.nothing_found';
}

const SLOWEST_BPM = 50;
const FASTEST_BPM = 220;
/** Where people feel the pulse; log-normal (centre and width own, in the range of the literature on preferred tempo). */
const PULSE_CENTRE_BPM = 115;
const PULSE_WIDTH = 0.42;
/** A song's tempo stays within this factor of its middle. */
const WANDER = 1.22;

/**
 * Finds pulses, bars and steadiness over several tracks as one performance.
 * `timekeepers`: ids to use, or null to choose by family and content. Cost about linear in length.
 */
export function detectTempo(tracks: readonly TempoTrack[], options: { readonly timekeepers: readonly string[] | null; readonly progress?: ProgressSink } = { timekeepers: null }): Result<TempoReading, TempoFault> {
  const novelties = tracks.map(trackNovelty);
  const choices = chooseTimekeepers(tracks, novelties, options.timekeepers);
  if (!choices.some((c) => c.chosen)) return err({ code: 'tempo.no_timekeepers' });
  options.progress?.(0.2);
  const raw = weigh(novelties, choices.map((c) => c.weight));
  const combined = levelled(raw);
  const activation = toPathRate(combined);
  const candidates = periodCandidates(activation);
  if (candidates.length === 0) return err({ code: 'tempo.nothing_found' });
  const rated = candidates.map((period, i) => {
    const path = findBeatPath(activation, Math.max(20, Math.floor(period / WANDER)), Math.ceil(period * WANDER));
    options.progress?.(0.2 + (0.6 * (i + 1)) / candidates.length);
    return { period, path, score: rateLevel(activation, path.frames) };
  });
  rated.sort((a, b) => b.score - a.score);
  const best = rated[0] as (typeof rated)[number];
  const rough = trimBeats(best.path.frames.map((f) => f / PATH_PER_SECOND), raw);
  if (rough.length < 8) return err({ code: 'tempo.nothing_found' });
  const refined = refineBeats(rough, combined);
  const steady = fitSteady(refined);
  const beats = steady ? steady.beats : smoothBeats(refined);
  const bars = findBars(tracks, novelties, beats);
  const confidence = rateBeats(beats, refined, combined);
  options.progress?.(1);
  const others = rated.slice(1).map((r) => ({ ratio: best.period / r.period, share: Math.exp(6 * (r.score - best.score)) }));
  const near = (ratio: number): number => Math.max(0, ...others.filter((o) => Math.abs(o.ratio / ratio - 1) < 0.15).map((o) => o.share)) * 0.5;
  const alternatives = [
    { reading: 'double' as const, confidence: near(2) },
    { reading: 'half' as const, confidence: near(0.5) },
    { reading: 'beat-later' as const, confidence: 1 - bars.confidence },
  ];
  const doubt = Math.min(0.9, alternatives.reduce((a, x) => a + x.confidence, 0));
  return ok({
    beats,
    confidence,
    firstDownbeat: bars.firstDownbeat,
    barLengths: bars.barLengths,
    steady: steady !== null,
    bpm: steady?.bpm ?? null,
    gridOffsetSeconds: steady ? (beats[0] as number) : null,
    timekeepers: choices,
    alternatives: [{ reading: 'as-found', confidence: 1 - doubt }, ...alternatives.sort((a, b) => b.confidence - a.confidence)],
  });
}

/** Weighted sum of the tracks' curves. */
function weigh(novelties: readonly Float32Array[], weights: readonly number[]): Float32Array {
  const length = Math.max(0, ...novelties.map((n) => n.length));
  const sum = new Float32Array(length);
  novelties.forEach((novelty, t) => {
    const w = weights[t] as number;
    if (w > 0) for (let i = 0; i < novelty.length; i++) sum[i] = (sum[i] as number) + w * (novelty[i] as number);
  });
  return sum;
}

/** The curve with quiet passages raised, so that they count as much; 0–1. */
function levelled(sum: Float32Array): Float32Array {
  const { length } = sum;
  const span = 6 * ONSETS_PER_SECOND;
  const overall = percentile(sum.filter((x) => x > 0.01), 0.97) || 1;
  const level: number[] = [];
  for (let s = 0; s < length; s += span / 2) level.push(Math.max(0.25 * overall, percentile(sum.subarray(Math.max(0, s - span / 2), Math.min(length, s + span / 2)), 0.985)));
  return sum.map((x, i) => {
    const at = i / (span / 2);
    const a = level[Math.floor(at)] as number;
    const b = level[Math.min(level.length - 1, Math.floor(at) + 1)] as number;
    return Math.min(1, x / (a + (b - a) * (at - Math.floor(at))));
  });
}

/** Half the rate, the larger of neighbours, so that no attack is lost. */
function toPathRate(curve: Float32Array): Float32Array {
  const ratio = ONSETS_PER_SECOND / PATH_PER_SECOND;
  return Float32Array.from({ length: Math.floor(curve.length / ratio) }, (_, i) => Math.max(curve[ratio * i] as number, curve[ratio * i + 1] as number));
}

const pulsePrior = (periodFrames: number): number => {
  const bpm = (60 * PATH_PER_SECOND) / periodFrames;
  return Math.exp(-0.5 * (Math.log(bpm / PULSE_CENTRE_BPM) / PULSE_WIDTH) ** 2);
};

/** Up to five periods (frames) worth trying: peaks of the summed local autocorrelation, and their halves and doubles. */
function periodCandidates(activation: Float32Array): number[] {
  const longest = Math.floor((60 * PATH_PER_SECOND) / SLOWEST_BPM);
  const shortest = Math.floor((60 * PATH_PER_SECOND) / FASTEST_BPM);
  const reach = 4 * longest;
  const mean = activation.reduce((a, b) => a + b, 0) / Math.max(1, activation.length);
  const acf = new Float64Array(reach + 1);
  for (let lag = shortest; lag <= reach; lag++) {
    let sum = 0;
    for (let i = 0; i + lag < activation.length; i++) sum += ((activation[i] as number) - mean) * ((activation[i + lag] as number) - mean);
    acf[lag] = sum / Math.max(1, activation.length - lag);
  }
  const around = (lag: number): number => {
    // A wandering tempo smears later multiples: look wider there.
    const wide = Math.max(1, Math.round(lag * 0.02));
    let best = -Infinity;
    for (let k = Math.round(lag) - wide; k <= Math.round(lag) + wide; k++) best = Math.max(best, acf[k] ?? -Infinity);
    return best;
  };
  const scored: { period: number; score: number }[] = [];
  for (let p = shortest; p <= longest; p++) scored.push({ period: p, score: (around(p) + around(2 * p) + 0.7 * around(3 * p) + around(4 * p)) * pulsePrior(p) });
  const peaks = scored.filter((s, i) => s.score > 0 && s.score >= (scored[i - 1]?.score ?? -Infinity) && s.score > (scored[i + 1]?.score ?? -Infinity)).sort((a, b) => b.score - a.score);
  const list: number[] = [];
  const add = (p: number): void => {
    if (p >= shortest && p <= longest && !list.some((q) => Math.abs(q / p - 1) < 0.06)) list.push(p);
  };
  for (const { period } of peaks.slice(0, 3)) add(period);
  for (const period of [...list]) [0.5, 2].forEach((r) => add(Math.round(period * r)));
  return list.slice(0, 6);
}

/** How well a beat path explains the attacks at its level: strength on the beats against between, times the preferred pulse. */
function rateLevel(activation: Float32Array, frames: readonly number[]): number {
  if (frames.length < 8) return -Infinity;
  const at = (f: number): number => {
    let best = 0;
    for (let k = Math.round(f) - 2; k <= Math.round(f) + 2; k++) best = Math.max(best, activation[k] ?? 0);
    return best;
  };
  const period = median(frames.slice(1).map((f, i) => f - (frames[i] as number)));
  let on = 0;
  let quarters = 0;
  frames.forEach((f) => {
    on += at(f);
    quarters += at(f + period / 4) + at(f + (3 * period) / 4);
  });
  on /= frames.length;
  quarters /= 2 * frames.length;
  return on - 0.25 * quarters + 0.5 * pulsePrior(period);
}

/** Confidence of each pulse: an attack is there and it lies where the music around expects it. */
function rateBeats(beats: readonly number[], heard: readonly number[], curve: Float32Array): number[] {
  return beats.map((t, i) => {
    const centre = Math.round(t * ONSETS_PER_SECOND);
    let peak = 0;
    for (let k = centre - 8; k <= centre + 8; k++) peak = Math.max(peak, curve[k] ?? 0);
    const apart = Math.abs((heard[i] ?? t) - t);
    let around = 0;
    let n = 0;
    for (let k = Math.max(0, i - 4); k <= Math.min(beats.length - 1, i + 4); k++, n++) around += Math.exp(-((((heard[k] as number) - (beats[k] as number)) / 0.02) ** 2));
    return Math.max(0.05, Math.min(0.98, 0.25 + 0.25 * Math.min(1, peak * 1.5) * Math.exp(-((apart / 0.03) ** 2)) + 0.55 * (around / n)));
  });
}
