import { logGamma } from '../dsp';
import type { Role, Stream } from './streams';

/** Where in a bar a hit can lie, by how the bar is built. */
type Place = 'downbeat' | 'middle' | 'backbeat' | 'pulse' | 'half' | 'quarter' | 'third' | 'between';

/** A way to divide bars. */
export interface Structure {
  readonly name: string;
  readonly numerator: number;
  readonly denominator: number;
  /** Length of each pulse in units of the path: 1 for even bars; in uneven ones the units are eighths. */
  readonly pulses: readonly number[];
  readonly places: readonly Place[];
  readonly divides: 2 | 3;
  /** Backbeats lie in the middle of the bar. */
  readonly halfTime: boolean;
  /** How common it is, natural logarithm against plain four (common practice, no source). */
  readonly prior: number;
}

const even = (name: string, numerator: number, denominator: number, places: readonly Place[], divides: 2 | 3, prior: number, halfTime = false): Structure => ({ name, numerator, denominator, pulses: places.map(() => 1), places, divides, halfTime, prior });
const FOUR: readonly Place[] = ['downbeat', 'backbeat', 'middle', 'backbeat'];

/** Bars whose pulses are as long as each other, in the order they are tried. */
export const EVEN_STRUCTURES: readonly Structure[] = [
  even('4/4', 4, 4, FOUR, 2, 0), even('4/4 half-time', 4, 4, ['downbeat', 'pulse', 'backbeat', 'pulse'], 2, -2.5, true), even('4/4 swung', 4, 4, FOUR, 3, -1.5),
  even('3/4', 3, 4, ['downbeat', 'pulse', 'pulse'], 2, -3), even('6/8', 6, 8, ['downbeat', 'backbeat'], 3, -2.5), even('12/8', 12, 8, FOUR, 3, -3.5),
  even('9/8', 9, 8, ['downbeat', 'pulse', 'pulse'], 3, -6), even('5/4', 5, 4, ['downbeat', 'pulse', 'pulse', 'middle', 'pulse'], 2, -6), even('7/4', 7, 4, ['downbeat', 'pulse', 'pulse', 'pulse', 'middle', 'pulse', 'pulse'], 2, -9),
];
const uneven = (name: string, numerator: number, groups: readonly number[], prior: number): Structure => ({ name, numerator, denominator: 8, pulses: groups, places: groups.map((_, i) => (i === 0 ? 'downbeat' : 'pulse')), divides: 2, halfTime: false, prior });
/** Bars of eighths in uneven groups; their paths are those of the eighths. */
export const UNEVEN_STRUCTURES: readonly Structure[] = [uneven('7/8', 7, [2, 2, 3], -5), uneven('7/8', 7, [3, 2, 2], -6), uneven('7/8', 7, [2, 3, 2], -7), uneven('5/8', 5, [3, 2], -7), uneven('5/8', 5, [2, 3], -7)];

/** Expected density of hits at each place against an even spread, by role (common practice, no source; not fitted to the shared sessions). */
const DENSITY: Readonly<Record<Role, Readonly<Record<Place, number>>>> = {
  kick: { downbeat: 10, middle: 5, backbeat: 1.5, pulse: 2.5, half: 2.2, quarter: 0.9, third: 1.4, between: 0.15 },
  snare: { downbeat: 0.8, middle: 1.5, backbeat: 10, pulse: 3.5, half: 1, quarter: 0.7, third: 0.8, between: 0.15 },
  hat: { downbeat: 4, middle: 4, backbeat: 4, pulse: 4, half: 3.4, quarter: 1.2, third: 2, between: 0.15 },
  crash: { downbeat: 12, middle: 3, backbeat: 1.5, pulse: 2, half: 1, quarter: 0.4, third: 0.6, between: 0.15 },
  percussion: { downbeat: 4, middle: 3.6, backbeat: 4, pulse: 3.6, half: 2.8, quarter: 1.5, third: 2, between: 0.2 },
  bass: { downbeat: 9, middle: 4, backbeat: 2, pulse: 2.5, half: 2.2, quarter: 0.8, third: 1.4, between: 0.2 },
  chords: { downbeat: 4.5, middle: 3, backbeat: 2.4, pulse: 2.5, half: 2.1, quarter: 0.9, third: 1.5, between: 0.25 },
  line: { downbeat: 2.6, middle: 2.2, backbeat: 1.9, pulse: 2, half: 1.7, quarter: 0.9, third: 1.3, between: 0.5 },
  harmony: { downbeat: 14, middle: 4, backbeat: 1.2, pulse: 1.3, half: 1, quarter: 0.4, third: 0.6, between: 0.2 },
  click: { downbeat: 12, middle: 9, backbeat: 9, pulse: 9, half: 2, quarter: 0.5, third: 1.5, between: 0.02 },
};
/** How much a role says about bars; what several players share must not count as often as it is heard (own). */
export const ROLE_WEIGHT: Readonly<Record<Role, number>> = { kick: 0.8, snare: 0.8, hat: 0.4, crash: 0.7, percussion: 0.4, bass: 0.7, chords: 0.4, line: 0.12, harmony: 1, click: 1 };
/** How many hits the expectation within a pulse is worth against what the song itself shows. */
const PRIOR_HITS = Number(process.env.A1 ?? 40);
/** The same for how near to the grid. */
const DEVIATION_HITS = 10;
/** {@link SPREAD_SECONDS} in bins. */
const REACH_BINS = 2;

/** Hits of a role in units of the path (pulse n = n), with their strengths. */
export interface Placed { readonly role: Role; readonly at: Float64Array; readonly strength: Float32Array }

/** Places hits on a path of rising moments; those outside are left out. */
export function placeOn(path: readonly number[], streams: readonly Stream[]): Placed[] {
  return streams.map(({ role, seconds, strength }) => {
    const at: number[] = [];
    const kept: number[] = [];
    let i = 0;
    seconds.forEach((t, k) => {
      while (i + 2 < path.length && (path[i + 1] as number) <= t) i++;
      const [a, b] = [path[i] as number, path[i + 1] as number];
      const x = i + (t - a) / (b - a);
      // A hit just before the first pulse or after the last still belongs to it.
      if (x > -0.5 && x < path.length - 0.5) {
        at.push(x);
        kept.push(strength[k] as number);
      }
    });
    return { role, at: Float64Array.from(at), strength: Float32Array.from(kept) };
  });
}

/** Hits are spread over ± this time before they are counted: as exact for slow pulses as for fast ones. */
const SPREAD_SECONDS = 0.02;

/** Bins of one unit of a path: as wide at every tempo, or readings could not be compared. */
export const binsPerUnit = (periodSeconds: number): number => Math.max(4, Math.round(periodSeconds / (SPREAD_SECONDS / 2)));

/** A triangle of area 1 over ± `reach` bins around `x`, called back bin by bin. */
function spread(x: number, reach: number, take: (bin: number, share: number) => void): void {
  for (let b = Math.ceil(x - reach); b <= Math.floor(x + reach); b++) take(b, (1 - Math.abs(b - x) / reach) / reach);
}

/** Strength of hits in each bin of a cycle of `units`. */
export function folded(placed: Placed, units: number, bins: number, reach: number): Float64Array {
  const size = units * bins;
  const out = new Float64Array(size);
  placed.at.forEach((x, i) => {
    const s = placed.strength[i] as number;
    spread(x * bins, reach, (b, share) => {
      const at = ((b % size) + size) % size;
      out[at] = (out[at] as number) + s * share;
    });
  });
  return out;
}

/** Log likelihood of counts (Dirichlet-multinomial, `prior` sums to 1 and is worth `hits`) against an even spread. */
function gain(counts: ArrayLike<number>, prior: ArrayLike<number>, hits: number): number {
  let total = 0;
  let sum = 0;
  for (let b = 0; b < counts.length; b++) {
    const c = counts[b] as number;
    if (c <= 0) continue;
    total += c;
    const a = hits * (prior[b] as number);
    sum += logGamma(a + c) - logGamma(a);
  }
  return total === 0 ? 0 : logGamma(hits) - logGamma(hits + total) + sum + total * Math.log(counts.length);
}

/** How much better hits are explained by lying near the parts of a pulse, and by which part, than by an even spread. */
function pulseGain(placed: readonly Placed[], divides: 1 | 2 | 3, parts: number, shift: number, bins: number): number {
  const size = Math.max(2, Math.round(bins / parts));
  const near = new Float64Array(size).fill(0.15);
  spread(0, REACH_BINS, (b, share) => { const i = ((b % size) + size) % size; near[i] = Math.max(near[i] as number, 4 * share * REACH_BINS); });
  const total = near.reduce((a, x) => a + x, 0);
  return placed.reduce((a, p) => {
    const d = DENSITY[p.role];
    const pulse = (d.downbeat + d.middle + 2 * d.backbeat) / 4;
    const expected = divides === 3 ? [pulse, d.third, d.third] : divides === 2 ? [pulse, d.quarter, d.half, d.quarter] : [pulse, d.half];
    const all = expected.reduce((x, y) => x + y, 0);
    const byPart = new Float64Array(parts);
    p.at.forEach((x, i) => { const k = Math.round((x - shift) * parts); const part = ((k % parts) + parts) % parts; byPart[part] = (byPart[part] as number) + (p.strength[i] as number); });
    const deviations = folded({ ...p, at: p.at.map((x) => (x - shift) * parts) }, 1, size, REACH_BINS);
    return a + ROLE_WEIGHT[p.role] * (gain(deviations, near.map((x) => x / total), DEVIATION_HITS) + gain(byPart, expected.map((x) => x / all), PRIOR_HITS));
  }, 0);
}

/** Strength of hits by part of a pulse (the pulse itself first) and unit of the cycle: `cells[part][unit]`. */
function cellsOf(placed: Placed, parts: number, units: number, shift: number): Float64Array[] {
  const cells = Array.from({ length: parts }, () => new Float64Array(units));
  placed.at.forEach((x, i) => {
    const k = Math.round((x - shift) * parts);
    const part = ((k % parts) + parts) % parts;
    const unit = (((Math.floor(k / parts)) % units) + units) % units;
    const cell = cells[part] as Float64Array;
    cell[unit] = (cell[unit] as number) + (placed.strength[i] as number);
  });
  return cells;
}

/** Expected share of a role's hits at each place of a bar, by part of the pulse (0 = the pulse itself). */
export function barExpectation(role: Role, places: readonly (Place | null)[], part: number): number[] {
  const density = places.map((p) => (p === null ? DENSITY[role].half : DENSITY[role][p]));
  const total = density.reduce((a, x) => a + x, 0);
  // What lies between pulses says less about which pulse it is: its expectation is nearly even.
  return density.map((x) => (part === 0 ? x / total : 0.3 * (x / total) + 0.7 / places.length));
}

/** How many hits the expectation of a bar is worth. */
const BAR_PRIOR_HITS = Number(process.env.A2 ?? 20);

/** How much better hits are explained by which unit of the bar they lie in, given where in the unit. `offset` = whole units. */
function barGain(role: Role, cells: readonly Float64Array[], places: readonly (Place | null)[], offset: number): number {
  const units = places.length;
  return cells.reduce((a, cell, part) => {
    const turned = Array.from({ length: units }, (_, u) => cell[(u + offset) % units] as number);
    return a + gain(turned, barExpectation(role, places, part), BAR_PRIOR_HITS);
  }, 0);
}

/** A structure laid on a path, and how well it explains the hits. */
export interface BarReading {
  readonly structure: Structure;
  /** The downbeats lie at this unit of the path, and every bar after; may be a fraction (the path ran between the pulses). */
  readonly offset: number;
  /** Log evidence against an even spread, priors included. */
  readonly score: number;
  /** How far ahead of the same structure with another downbeat. */
  readonly margin: number;
}

/** Where pulses may lie against the path. */
const SHIFTS: Readonly<Record<2 | 3, readonly number[]>> = { 2: [0, 0.5], 3: [0, 1 / 3, 2 / 3] };

/** Where people feel the pulse: log-normal around the centre (own, in the range of the literature on preferred tempo). */
const PULSE_CENTRE_BPM = 112;
const COMPOUND_CENTRE_BPM = 84;
const PULSE_WIDTH = 0.42;
const TEMPO_WEIGHT = Number(process.env.TW ?? 14);
const tempoPrior = (bpm: number, structure: Structure): number => -TEMPO_WEIGHT * 0.5 * (Math.log(bpm / (structure.denominator === 8 && structure.divides === 3 ? COMPOUND_CENTRE_BPM : PULSE_CENTRE_BPM)) / PULSE_WIDTH) ** 2;

/** Every reading of a path worth comparing, best first: each structure with its best downbeat. */
export function readBars(path: readonly number[], streams: readonly Stream[], structures: readonly Structure[]): BarReading[] {
  const period = ((path.at(-1) as number) - (path[0] as number)) / (path.length - 1);
  const bins = binsPerUnit(period);
  const placed = placeOn(path, streams);
  const readings = structures.flatMap((structure) => {
    const isUneven = structure.pulses.some((p) => p !== structure.pulses[0]);
    const places = structure.pulses.flatMap((length, p) => [structure.places[p] as Place, ...Array.from({ length: length - 1 }, () => null)]);
    const units = places.length;
    const parts = isUneven ? 2 : structure.divides === 3 ? 3 : 4;
    return (isUneven ? [0] : SHIFTS[structure.divides]).map((shift) => {
      const within = pulseGain(placed, isUneven ? 1 : structure.divides, parts, shift, bins);
      const evidence = (expectation: readonly (Place | null)[], offset: number): number => placed.reduce((a, p) => a + ROLE_WEIGHT[p.role] * barGain(p.role, cellsOf(p, parts, expectation.length, shift), expectation, offset), 0);
      const tries = Array.from({ length: units }, (_, offset) => ({ offset, value: evidence(places, offset) })).sort((a, b) => b.value - a.value);
      const best = tries[0] as { offset: number; value: number };
      // A song that repeats every half bar must not pay for the bar being longer.
      const half = units % 2 === 0 && units > 2 ? Math.max(...[0, 1].map((offset) => evidence(places.slice(0, units / 2).map((p) => (p === 'downbeat' ? 'middle' : p)), offset))) : -Infinity;
      const bpm = isUneven ? 30 / period : 60 / period;
      return { structure, offset: best.offset + shift, score: within + Math.max(best.value, half) + structure.prior + tempoPrior(bpm, structure), margin: best.value - (tries[1]?.value ?? best.value) };
    });
  });
  return readings.sort((a, b) => b.score - a.score);
}
