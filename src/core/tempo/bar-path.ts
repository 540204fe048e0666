import type { Meter } from '../time';
import { shortened } from './adjust';
import { type BarReading, barExpectation, type Placed, placeOn, ROLE_WEIGHT, type Structure } from './bar-readings';
import type { Stream } from './streams';

const { exp, floor, log, max, round } = Math;

/** Bars laid on pulses. */
export interface Bars {
  /** Index of the pulse that opens bar 1. */
  readonly firstDownbeat: number;
  readonly meters: readonly Meter[];
  /** How sure a bar begins at each pulse, 0–1. */
  readonly begins: readonly number[];
}

/** Cost of one bar of another length: half a bar is the usual one (own, in log evidence). */
const HALF_BAR_COST = 5;
const ODD_BAR_COST = 14;
/** Cost of going on in another meter. */
const CHANGE_COST = 10;
/** How many hits the expectation is worth against what the song shows. */
const EXPECTED_HITS = 12;
/** A meter needs so many bars of its own to be learnt. */
const FEWEST_BARS = 4;

/** Places of a bar of one structure, as states from `first` on. */
export interface Lane { readonly structure: Structure; readonly places: number; readonly first: number }

/**
 * Where bars begin, pulse by pulse: the likeliest way through (meter, place in the bar) given what each role plays there, with
 * single bars of another length and passages of another meter at a cost. Learns from the song how its bars sound, and looks again.
 * `pulses` moments; `reading` their structure, with the downbeat at pulse `first`; `others` = meters a passage may have.
 */
export function layBars(pulses: readonly number[], streams: readonly Stream[], reading: BarReading, first: number, others: readonly Structure[]): Bars {
  const placed = placeOn(pulses, streams);
  const parts = reading.structure.divides === 3 ? 3 : 4;
  const hits = placed.map((p) => byPulse(p, pulses.length, parts));
  const structures = [reading.structure, ...others];
  const lanes: Lane[] = [];
  let count = 0;
  for (const structure of structures) {
    lanes.push({ structure, places: structure.pulses.length, first: count });
    count += structure.pulses.length;
  }
  let begins: readonly number[] = [];
  let states = Int16Array.from(pulses, (_, i) => (((i - first) % reading.structure.pulses.length) + reading.structure.pulses.length) % reading.structure.pulses.length);
  for (let round = 0; round < 3; round++) {
    // First by what is usual: bars counted through a change would blur what they teach.
    const tables = lanes.map((lane) => placed.map((p, r) => learned(lane, p, hits[r] as readonly Float32Array[], round === 0 ? null : states, parts)));
    const values = pulses.map((_, i) => evidenceAt(i, lanes, tables, placed, hits, count));
    states = bestWay(values, lanes, count) as typeof states;
    begins = beginnings(values, lanes, count);
  }
  const bars = { ...readOff(states, lanes), begins };
  // A bar or two in another meter at the end of a ritardando are none.
  return others.length > 0 && hasShortPassage(states, lanes) ? layBars(pulses, streams, reading, first, []) : bars;
}

/** Strength of a role's hits by part of a pulse, for each pulse. */
function byPulse(placed: Placed, pulses: number, parts: number): Float32Array[] {
  const out = Array.from({ length: parts }, () => new Float32Array(pulses));
  placed.at.forEach((x, i) => {
    const k = round(x * parts);
    const pulse = floor(k / parts);
    if (pulse < 0 || pulse >= pulses) return;
    const cell = out[((k % parts) + parts) % parts] as Float32Array;
    cell[pulse] = (cell[pulse] as number) + (placed.strength[i] as number);
  });
  return out;
}

/** Log of how much likelier a hit is at each place than on the whole, by part; from where the meter was found and what is expected. */
function learned(lane: Lane, placed: Placed, hits: readonly Float32Array[], states: Int16Array | null, parts: number): Float64Array[] {
  const bars = states ? states.filter((s) => s === lane.first).length : 0;
  return Array.from({ length: parts }, (_, part) => {
    const prior = barExpectation(placed.role, lane.structure.places, part);
    const counts = Float64Array.from(prior, (p) => EXPECTED_HITS * p);
    if (states && bars >= FEWEST_BARS)
      states.forEach((s, i) => {
        const place = s - lane.first;
        if (place >= 0 && place < lane.places) counts[place] = (counts[place] as number) + ((hits[part] as Float32Array)[i] as number);
      });
    const total = counts.reduce((a, x) => a + x, 0);
    return counts.map((x) => log((x / total) * lane.places));
  });
}

function evidenceAt(i: number, lanes: readonly Lane[], tables: readonly (readonly Float64Array[])[][], placed: readonly Placed[], hits: readonly (readonly Float32Array[])[], count: number): Float64Array {
  const out = new Float64Array(count);
  lanes.forEach((lane, l) => {
    for (let place = 0; place < lane.places; place++) {
      let sum = 0;
      placed.forEach(({ role }, r) => (hits[r] as readonly Float32Array[]).forEach((cell, part) => {
        const s = cell[i] as number;
        if (s > 0) sum += ROLE_WEIGHT[role] * s * ((((tables[l] as (readonly Float64Array[])[])[r] as readonly Float64Array[])[part] as Float64Array)[place] as number);
      }));
      out[lane.first + place] = sum;
    }
  });
  return out;
}

/** Cost of closing a bar of a lane after `places` of its pulses. */
function closing(lane: Lane, places: number): number {
  if (places === lane.places) return 0;
  return lane.places % 2 === 0 && lane.places > 2 && places * 2 === lane.places ? HALF_BAR_COST : ODD_BAR_COST;
}

/** Offers every step from pulse to pulse with what it costs: on within a bar, or to the first place of a bar of any lane. */
export function eachStep(lanes: readonly Lane[], offer: (from: number, to: number, cost: number) => void): void {
  for (const lane of lanes) {
    for (let place = 0; place < lane.places; place++) {
      const s = lane.first + place;
      if (place + 1 < lane.places) offer(s, s + 1, 0);
      for (const other of lanes) offer(s, other.first, closing(lane, place + 1) + (other === lane ? 0 : CHANGE_COST));
    }
  }
}

/** Evidence counts many hits that are one habit of one player: it is this many times too sure of itself (own, from sessions of our own making). */
export const OVERSURE = 2;

/** How likely a bar begins at each pulse, over all ways through (forward and backward sums; Rabiner 1989, from memory). */
export function beginnings(values: readonly Float64Array[], lanes: readonly Lane[], count: number): number[] {
  const steps: { readonly from: number; readonly to: number; readonly weight: number }[] = [];
  eachStep(lanes, (from, to, cost) => steps.push({ from, to, weight: exp(-cost / OVERSURE) }));
  /** One pulse's evidence times what came in, summing to 1. */
  const weighed = (incoming: Float64Array, value: Float64Array): Float64Array => {
    const top = max(...value);
    const out = incoming.map((x, s) => x * exp(((value[s] as number) - top) / OVERSURE));
    const sum = out.reduce((a, x) => a + x, 0);
    return out.map((x) => x / sum);
  };
  const pass = (states: Float64Array, isBack: boolean): Float64Array => {
    const out = new Float64Array(count);
    for (const { from, to, weight } of steps) { const [a, b] = isBack ? [to, from] : [from, to]; out[b] = (out[b] as number) + weight * (states[a] as number); }
    return out;
  };
  const n = values.length;
  const ahead: Float64Array[] = [];
  for (let i = 0; i < n; i++) ahead.push(weighed(i === 0 ? new Float64Array(count).fill(1) : pass(ahead[i - 1] as Float64Array, false), values[i] as Float64Array));
  const out = new Array<number>(n);
  let behind = new Float64Array(count).fill(1);
  for (let i = n - 1; i >= 0; i--) {
    const both = behind.map((x, s) => x * ((ahead[i] as Float64Array)[s] as number));
    out[i] = lanes.reduce((a, l) => a + (both[l.first] as number), 0) / both.reduce((a, x) => a + x, 0);
    behind = pass(weighed(behind, values[i] as Float64Array), true) as typeof behind;
  }
  return out;
}

function bestWay(values: readonly Float64Array[], lanes: readonly Lane[], count: number): Int16Array {
  let now = Float64Array.from(values[0] as Float64Array);
  const back: Int16Array[] = [];
  for (let i = 1; i < values.length; i++) {
    const next = new Float64Array(count).fill(-Infinity);
    const from = new Int16Array(count);
    eachStep(lanes, (by, to, cost) => {
      const value = (now[by] as number) - cost;
      if (value > (next[to] as number)) { next[to] = value; from[to] = by; }
    });
    for (let s = 0; s < count; s++) next[s] = (next[s] as number) + ((values[i] as Float64Array)[s] as number);
    now = next;
    back.push(from);
  }
  const states = new Int16Array(values.length);
  states[values.length - 1] = now.indexOf(max(...now));
  for (let i = values.length - 1; i > 0; i--) states[i - 1] = (back[i - 1] as Int16Array)[states[i] as number] as number;
  return states;
}

/** Whether some passage of another meter has fewer bars than {@link FEWEST_BARS}. */
function hasShortPassage(states: Int16Array, lanes: readonly Lane[]): boolean {
  const starts = [...states].filter((s) => lanes.some((l) => l.first === s));
  let run = 0;
  return starts.some((s, i) => {
    run = s === starts[i - 1] ? run + 1 : 1;
    return s !== lanes[0]?.first && starts[i + 1] !== s && run < FEWEST_BARS;
  });
}

function readOff(states: Int16Array, lanes: readonly Lane[]): Omit<Bars, 'begins'> {
  const laneOf = (s: number): Lane => lanes.findLast((l) => s >= l.first) as Lane;
  const starts: number[] = [];
  states.forEach((s, i) => { if (s === laneOf(s).first) starts.push(i); });
  const meters: Meter[] = [];
  const meterOf = (lane: Lane): Meter => ({ bar: 0, numerator: lane.structure.numerator, denominator: lane.structure.denominator });
  starts.forEach((start, n) => {
    const lane = laneOf(states[start] as number);
    const whole = meterOf(lane);
    // The last bar may just end with the music.
    const length = n + 1 < starts.length ? (starts[n + 1] as number) - start : lane.places;
    const meter = { ...(length === lane.places ? whole : shortened(whole, length)), bar: n + 1 };
    const before = meters.at(-1);
    if (before?.numerator !== meter.numerator || before.denominator !== meter.denominator) meters.push(meter);
  });
  if (meters.length === 0) meters.push({ ...meterOf(lanes[0] as Lane), bar: 1 });
  return { firstDownbeat: starts[0] ?? 0, meters };
}
