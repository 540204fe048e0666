import type { Meter } from '../time';
import { shortened } from './adjust';
import {
  type BarReading,
  barExpectation,
  isUneven,
  OTHER_BARS,
  type HitsOnPath,
  hitsOnPath,
  ROLE_WEIGHT,
  type Structure,
  otherBarsGain,
  unitPositions,
} from './bar-readings';
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

/** Units of a bar of one structure, as states from `first` on. */
export interface Lane {
  readonly structure: Structure;
  readonly places: number;
  readonly first: number;
}

/**
 * Where bars begin, pulse by pulse: the likeliest way through (meter, place in the bar) given what each role plays there, with
 * single bars of another length and passages of another meter at a cost. Learns from the song how its bars sound, and looks again.
 * `pulses` moments; `reading` their structure; `others` = meters a passage may have.
 */
export function layBars(
  pulses: readonly number[],
  streams: readonly Stream[],
  reading: BarReading,
  others: readonly Structure[],
): Bars {
  const way = likeliestWay(
    pulses,
    streams,
    [reading.structure, ...others],
    reading.structure.divides === 3 ? 3 : 4,
  );
  // A bar or two in another meter at the end of a ritardando are none.
  return others.length > 0 && hasShortPassage(way) ? layBars(pulses, streams, reading, []) : readOff(way);
}

/** A pulse of bars that are counted in eighths. */
export interface LaidPulse {
  readonly seconds: number;
  /** How long it is, in units of the path. */
  readonly units: number;
  readonly opensBar: boolean;
  /** How sure a bar begins there, 0–1. */
  readonly begins: number;
  /** The bar it is in. */
  readonly structure: Structure;
}

/** The same from `units` (eighths) instead of pulses, for uneven bars and even ones with uneven ones among them; single bars of another number of units at a cost. */
export function layEighths(
  units: readonly number[],
  streams: readonly Stream[],
  { structure, hasOtherBars }: Pick<BarReading, 'structure' | 'hasOtherBars'>,
): LaidPulse[] {
  const way = hasOtherBars
    ? wayInEighths(units, streams, structure)
    : likeliestWay(units, streams, [structure], 2);
  const begins = beginnings(way);
  return units.flatMap((seconds, i): LaidPulse[] => {
    const state = way.states[i] as number;
    const lane = laneOf(way, state);
    let at = 0;
    const own = lane.structure.pulses.find((n) => {
      const isHere = at === state - lane.first;
      at += n;
      return isHere;
    });
    return own === undefined
      ? []
      : [
          {
            seconds,
            units: own,
            opensBar: state === lane.first,
            begins: begins[i] as number,
            structure: lane.structure,
          },
        ];
  });
}

/** Cost of a bar of another length in the evidence of a whole reading, among uneven bars and among even ones (own). */
const OTHER_BAR_COST = 8;
const UNEVEN_BAR_COST = 20;

/** A reading in eighths judged with the bars of another length among them; null without any that are worth it (among even bars: with an odd number of eighths). */
export function withOtherBars<R extends BarReading>(
  reading: R,
  units: readonly number[],
  streams: readonly Stream[],
): R | null {
  const { states, lanes } = wayInEighths(units, streams, reading.structure);
  const [own] = lanes as [Lane];
  const isOwn = (s: number): boolean => s < own.first + own.places;
  const others = [...states].flatMap((s) => (isOwn(s) ? [] : lanes.filter((l) => l.first === s)));
  const isWorth = isUneven(reading.structure) ? others.length > 0 : others.some((l) => l.places % 2 === 1);
  if (!isWorth) return null;
  const cost = others.length * (isUneven(reading.structure) ? OTHER_BAR_COST : UNEVEN_BAR_COST);
  const { gain, margin } = otherBarsGain(
    units,
    streams,
    reading,
    states.map((s) => (isOwn(s) ? s - own.first : -1)),
  );
  return gain > cost ? { ...reading, score: reading.score + gain - cost, margin, hasOtherBars: true } : null;
}

function wayInEighths(units: readonly number[], streams: readonly Stream[], structure: Structure): Way {
  const length = unitPositions(structure).length;
  const others = OTHER_BARS.filter((s) => unitPositions(s).length !== length);
  return likeliestWay(units, streams, [structure, ...others], 2, true);
}

/** What each unit of a path is worth as each unit of each bar, log evidence. */
export interface Lattice {
  readonly values: readonly Float64Array[];
  readonly lanes: readonly Lane[];
  readonly count: number;
}

/** A way through: which unit of which bar each unit of a path is. */
interface Way extends Lattice {
  readonly states: Int16Array;
}

const laneOf = ({ lanes }: Pick<Way, 'lanes'>, state: number): Lane =>
  lanes.findLast((l) => state >= l.first) as Lane;

/** The likeliest way through bars of these structures, the first the usual one, from what is usual and what the song shows. `endsUsual`: the music ends with a usual bar, cut short or not. */
function likeliestWay(
  path: readonly number[],
  streams: readonly Stream[],
  structures: readonly Structure[],
  parts: number,
  endsUsual = false,
): Way {
  const placed = hitsOnPath(path, streams);
  const hits = placed.map((p) => byPulse(p, path.length, parts));
  const lanes: Lane[] = [];
  let count = 0;
  for (const structure of structures) {
    const places = unitPositions(structure).length;
    lanes.push({ structure, places, first: count });
    count += places;
  }
  let way: Way | null = null;
  for (let round = 0; round < 3; round++) {
    // First by what is usual: bars counted through a change would blur what they teach.
    const tables = lanes.map((lane) =>
      placed.map((p, r) => learned(lane, p, hits[r] as readonly Float32Array[], way?.states ?? null, parts)),
    );
    const values = path.map((_, i) => evidenceAt(i, { lanes, count }, tables, placed, hits));
    way = {
      values,
      lanes,
      count,
      states: bestWay({ values, lanes, count }, endsUsual ? (lanes[0] as Lane).places : count),
    };
  }
  return way as Way;
}

/** Strength of a role's hits by part of a pulse, for each pulse. */
function byPulse(placed: HitsOnPath, pulses: number, parts: number): Float32Array[] {
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
function learned(
  lane: Lane,
  placed: HitsOnPath,
  hits: readonly Float32Array[],
  states: Int16Array | null,
  parts: number,
): Float64Array[] {
  const bars = states ? states.filter((s) => s === lane.first).length : 0;
  const places = unitPositions(lane.structure);
  return Array.from({ length: parts }, (_, part) => {
    const prior = barExpectation(placed.role, places, part);
    const counts = Float64Array.from(prior, (p) => EXPECTED_HITS * p);
    if (states && bars >= FEWEST_BARS)
      states.forEach((s, i) => {
        const place = s - lane.first;
        if (place >= 0 && place < lane.places)
          counts[place] = (counts[place] as number) + ((hits[part] as Float32Array)[i] as number);
      });
    const total = counts.reduce((a, x) => a + x, 0);
    return counts.map((x) => log((x / total) * lane.places));
  });
}

/** Log evidence of one unit of the path for each state; `hits` and `tables` as {@link byPulse} and {@link learned} give them, by role and by lane and role. */
function evidenceAt(
  i: number,
  { lanes, count }: Omit<Lattice, 'values'>,
  tables: readonly (readonly Float64Array[])[][],
  placed: readonly HitsOnPath[],
  hits: readonly (readonly Float32Array[])[],
): Float64Array {
  const out = new Float64Array(count);
  placed.forEach(({ role }, r) =>
    (hits[r] as readonly Float32Array[]).forEach((cell, part) => {
      const said = ROLE_WEIGHT[role] * (cell[i] as number);
      if (said > 0)
        lanes.forEach(({ first, places }, l) => {
          const table = ((tables[l] as (readonly Float64Array[])[])[r] as readonly Float64Array[])[
            part
          ] as Float64Array;
          for (let place = 0; place < places; place++)
            out[first + place] = (out[first + place] as number) + said * (table[place] as number);
        });
    }),
  );
  return out;
}

/** Cost of closing a bar of a lane after `places` of its units; uneven ones have other bars for that. */
function closing(lane: Lane, places: number): number {
  if (places === lane.places) return 0;
  if (lane.places !== lane.structure.pulses.length) return Infinity;
  return lane.places % 2 === 0 && lane.places > 2 && places * 2 === lane.places
    ? HALF_BAR_COST
    : ODD_BAR_COST;
}

/** Offers every step from pulse to pulse with what it costs: on within a bar, or to the first place of a bar of any lane. */
export function eachStep(
  lanes: readonly Lane[],
  offer: (from: number, to: number, cost: number) => void,
): void {
  for (const lane of lanes) {
    for (let place = 0; place < lane.places; place++) {
      const s = lane.first + place;
      if (place + 1 < lane.places) offer(s, s + 1, 0);
      const ends = closing(lane, place + 1);
      if (ends < Infinity)
        for (const other of lanes) offer(s, other.first, ends + (other === lane ? 0 : CHANGE_COST));
    }
  }
}

/** Evidence counts many hits that are one habit of one player: it is this many times too sure of itself (own, from sessions of our own making). */
export const OVERSURE = 2;

/** How likely a bar begins at each pulse, over all ways through (forward and backward sums; Rabiner 1989, from memory). */
export function beginnings({ values, lanes, count }: Lattice): number[] {
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
    for (const { from, to, weight } of steps) {
      const [a, b] = isBack ? [to, from] : [from, to];
      out[b] = (out[b] as number) + weight * (states[a] as number);
    }
    return out;
  };
  const n = values.length;
  const ahead: Float64Array[] = [];
  for (let i = 0; i < n; i++)
    ahead.push(
      weighed(
        i === 0 ? new Float64Array(count).fill(1) : pass(ahead[i - 1] as Float64Array, false),
        values[i] as Float64Array,
      ),
    );
  const out = new Array<number>(n);
  let behind = new Float64Array(count).fill(1);
  for (let i = n - 1; i >= 0; i--) {
    const both = behind.map((x, s) => x * ((ahead[i] as Float64Array)[s] as number));
    out[i] = lanes.reduce((a, l) => a + (both[l.first] as number), 0) / both.reduce((a, x) => a + x, 0);
    behind = pass(weighed(behind, values[i] as Float64Array), true) as typeof behind;
  }
  return out;
}

/** `ends`: the last state is one of so many. */
function bestWay({ values, lanes, count }: Lattice, ends: number): Int16Array {
  const steps: { readonly by: number; readonly to: number; readonly cost: number }[] = [];
  eachStep(lanes, (by, to, cost) => steps.push({ by, to, cost }));
  let now = Float64Array.from(values[0] as Float64Array);
  const back: Int16Array[] = [];
  for (let i = 1; i < values.length; i++) {
    const next = new Float64Array(count).fill(-Infinity);
    const from = new Int16Array(count);
    for (const { by, to, cost } of steps) {
      const value = (now[by] as number) - cost;
      if (value > (next[to] as number)) {
        next[to] = value;
        from[to] = by;
      }
    }
    for (let s = 0; s < count; s++)
      next[s] = (next[s] as number) + ((values[i] as Float64Array)[s] as number);
    now = next;
    back.push(from);
  }
  const states = new Int16Array(values.length);
  states[values.length - 1] = now.indexOf(max(...now.subarray(0, ends)));
  for (let i = values.length - 1; i > 0; i--)
    states[i - 1] = (back[i - 1] as Int16Array)[states[i] as number] as number;
  return states;
}

/** Whether some passage of another meter has fewer bars than {@link FEWEST_BARS}. */
function hasShortPassage({ states, lanes }: Way): boolean {
  const starts = [...states].filter((s) => lanes.some((l) => l.first === s));
  let run = 0;
  return starts.some((s, i) => {
    run = s === starts[i - 1] ? run + 1 : 1;
    return s !== lanes[0]?.first && starts[i + 1] !== s && run < FEWEST_BARS;
  });
}

function readOff(way: Way): Bars {
  const { states } = way;
  const starts: number[] = [];
  states.forEach((s, i) => {
    if (s === laneOf(way, s).first) starts.push(i);
  });
  const meters = starts.map((start, n) => {
    const lane = laneOf(way, states[start] as number);
    // The last bar may just end with the music.
    const length = n + 1 < starts.length ? (starts[n + 1] as number) - start : lane.places;
    return length === lane.places ? meterOf(lane.structure) : shortened(meterOf(lane.structure), length);
  });
  return {
    firstDownbeat: starts[0] ?? 0,
    meters: whereTheyChange(meters.length > 0 ? meters : [meterOf((way.lanes[0] as Lane).structure)]),
    begins: beginnings(way),
  };
}

/** Bars of such pulses; those before the first bar line belong to a bar like it. */
export function barsOf(pulses: readonly LaidPulse[]): Bars {
  const opening = pulses.filter((p) => p.opensBar).map((p) => meterOf(p.structure));
  return {
    firstDownbeat: Math.max(
      0,
      pulses.findIndex((p) => p.opensBar),
    ),
    meters: whereTheyChange(opening),
    begins: pulses.map((p) => p.begins),
  };
}

const meterOf = (structure: Structure): Meter => ({
  bar: 1,
  numerator: structure.numerator,
  denominator: structure.denominator,
  ...(isUneven(structure) ? { groups: structure.pulses } : {}),
});

/** Of the meters of bars 1, 2, … those that differ from the one before. */
function whereTheyChange(meters: readonly Meter[]): Meter[] {
  return meters.flatMap((m, i) => {
    const before = meters[i - 1];
    return before &&
      before.numerator === m.numerator &&
      before.denominator === m.denominator &&
      before.groups?.join() === m.groups?.join()
      ? []
      : [{ ...m, bar: i + 1 }];
  });
}
