import { ONSETS_PER_SECOND } from '../analysis';
import type { TempoTrack } from './reading';

/** Where bars begin. */
export interface Bars {
  readonly firstDownbeat: number;
  readonly barLengths: readonly { readonly bar: number; readonly pulses: number }[];
  /** 0–1: how far the chosen phase is ahead of the next best. */
  readonly confidence: number;
}

const METERS = [4, 3] as const;
/** Cost of one bar of another length, in mean evidence of a beat (own). */
const ODD_BAR_COST = 4;

/**
 * Bars of three or four pulses with single shorter ones between: the best path through (pulse, place in bar).
 * Evidence for a downbeat: bass, chords and kick begin there, the snare does not (common practice, no source).
 */
export function findBars(tracks: readonly TempoTrack[], novelties: readonly Float32Array[], beats: readonly number[]): Bars {
  const evidence = downbeatEvidence(tracks, novelties, beats);
  const readings = METERS.map((pulses) => ({ pulses, ...bestPhases(evidence, pulses) }));
  readings.sort((a, b) => b.score - a.score);
  const best = readings[0] as (typeof readings)[number];
  const path = barPath(evidence, best.pulses);
  const starts = path.filter((p) => p.place === 0).map((p) => p.beat);
  const firstDownbeat = starts[0] ?? 0;
  const barLengths: { bar: number; pulses: number }[] = [];
  starts.forEach((start, i) => {
    const pulses = i + 1 < starts.length ? (starts[i + 1] as number) - start : best.pulses;
    if (barLengths.at(-1)?.pulses !== pulses) barLengths.push({ bar: i + 1, pulses });
  });
  if (barLengths.length === 0) barLengths.push({ bar: 1, pulses: best.pulses });
  return { firstDownbeat, barLengths, confidence: best.margin };
}

const ROLE: Readonly<Record<string, number>> = { kick: 0.6, snare: -0.8, hihat: 0, overhead: 0.2, room: 0, tom: 0, cymbal: 0.6, kit: 0.2 };
const FAMILY_ROLE: Readonly<Record<string, number>> = { bass: 1, guitars: 0.7, keys: 0.8, synths: 0.8, strings: 0.6, brass: 0.3, winds: 0.2, 'lead-vocal': 0.1, 'backing-vocal': 0.2, percussion: 0.1 };

/** One standardised figure a pulse: how much it looks like the start of a bar. */
function downbeatEvidence(tracks: readonly TempoTrack[], novelties: readonly Float32Array[], beats: readonly number[]): number[] {
  const total = new Array<number>(beats.length).fill(0);
  const groups = new Map<string, { weight: number; values: number[] }>();
  tracks.forEach((track, t) => {
    const weight = track.family === 'drums' ? (ROLE[track.part ?? ''] ?? 0) : (FAMILY_ROLE[track.family] ?? 0);
    if (weight === 0) return;
    const novelty = novelties[t] as Float32Array;
    const key = track.family === 'drums' ? `drums-${track.part}` : track.family;
    const group = groups.get(key) ?? { weight, values: new Array<number>(beats.length).fill(0) };
    beats.forEach((time, b) => {
      const centre = Math.round(time * ONSETS_PER_SECOND);
      let peak = 0;
      for (let k = centre - 8; k <= centre + 10; k++) peak = Math.max(peak, novelty[k] ?? 0);
      group.values[b] = (group.values[b] as number) + Math.min(1, peak);
    });
    groups.set(key, group);
  });
  for (const { weight, values } of groups.values()) {
    const mean = values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);
    const deviation = Math.sqrt(values.reduce((a, b) => a + (b - mean) ** 2, 0) / Math.max(1, values.length));
    if (deviation < 1e-6) continue;
    values.forEach((v, i) => { total[i] = (total[i] as number) + (weight * (v - mean)) / deviation; });
  }
  return total;
}

function bestPhases(evidence: readonly number[], pulses: number): { score: number; margin: number } {
  const means = Array.from({ length: pulses }, (_, phase) => {
    let sum = 0;
    let n = 0;
    for (let i = phase; i < evidence.length; i += pulses, n++) sum += evidence[i] as number;
    return sum / Math.max(1, n);
  });
  const path = barPath(evidence, pulses);
  const on = path.filter((p) => p.place === 0);
  const score = on.reduce((a, p) => a + (evidence[p.beat] as number), 0) / Math.max(1, on.length);
  const sorted = [...means].sort((a, b) => b - a);
  const margin = Math.max(0.05, Math.min(0.98, 0.5 + 0.5 * Math.tanh(((sorted[0] as number) - (sorted[1] as number)) * 1.2)));
  // Four is much the commoner; three must be clearly better.
  return { score: score - (pulses === 3 ? 0.25 : 0), margin };
}

/** Viterbi over the place in the bar; a bar may close early (a 2/4 bar) or run on at a cost. */
function barPath(evidence: readonly number[], pulses: number): { beat: number; place: number }[] {
  const spread = Math.sqrt(evidence.reduce((a, x) => a + x * x, 0) / Math.max(1, evidence.length)) || 1;
  const cost = ODD_BAR_COST * spread;
  const gain = (place: number, x: number): number => (place === 0 ? x : -x / (pulses - 1));
  let values = Array.from({ length: pulses }, (_, place) => gain(place, evidence[0] ?? 0));
  const back: number[][] = [];
  for (let i = 1; i < evidence.length; i++) {
    const next: number[] = [];
    const from: number[] = [];
    for (let place = 0; place < pulses; place++) {
      const usual = (place - 1 + pulses) % pulses;
      let best = usual;
      let value = values[usual] as number;
      if (place === 0) {
        const early = pulses === 4 ? 1 : 0;
        const short = (values[early] as number) - cost;
        if (short > value) {
          value = short;
          best = early;
        }
      }
      next.push(value + gain(place, evidence[i] as number));
      from.push(best);
    }
    back.push(from);
    values = next;
  }
  let place = values.indexOf(Math.max(...values));
  const path: { beat: number; place: number }[] = [];
  for (let i = evidence.length - 1; i >= 0; i--) {
    path.push({ beat: i, place });
    if (i > 0) place = (back[i - 1] as number[])[place] as number;
  }
  return path.reverse();
}
