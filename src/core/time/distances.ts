import type { SongMap } from './song-map';

/** What a distance in time is counted in. */
export const DISTANCE_UNITS = ['bars', 'pulses', 'seconds', 'frames'] as const;
export type DistanceUnit = (typeof DISTANCE_UNITS)[number];

/** A distance in time in all units; frames are whole. Without a map there are no bars and pulses. */
export interface Distance {
  readonly bars: number | null;
  readonly pulses: number | null;
  readonly seconds: number;
  readonly frames: number;
}

/** From where distances are counted: bars are longer at one place than at another. */
export interface DistanceOrigin {
  readonly map: SongMap | null;
  /** s. */
  readonly fromSeconds: number;
  readonly rateHz: number;
}

/** A place as a bar and what of it has passed, 0 … 1. */
function barPlace({ meters, tempo }: SongMap, seconds: number): number {
  const { bar, quartersInBar } = meters.toBar(tempo.toQuarters(seconds));
  return bar + quartersInBar / (meters.barToQuarters(bar + 1) - meters.barToQuarters(bar));
}

function secondsAtBar({ meters, tempo }: SongMap, place: number): number {
  const bar = Math.floor(place);
  const [begin, end] = [meters.barToQuarters(bar), meters.barToQuarters(bar + 1)];
  return tempo.toSeconds(begin + (place - bar) * (end - begin));
}

/** The pulse of its bar a place lies in, from 0, and what of that has passed. */
function pulseInBar({ meters }: SongMap, bar: number, quartersInBar: number): number {
  const begins = meters.pulsesIn(bar).map((q) => q - meters.barToQuarters(bar));
  const k = Math.max(
    0,
    begins.findLastIndex((q) => q <= quartersInBar + 1e-9),
  );
  const length = (begins[k + 1] ?? meters.barToQuarters(bar + 1) - meters.barToQuarters(bar)) - begins[k]!;
  return k + Math.max(0, quartersInBar - begins[k]!) / length;
}

/** Pulses from one bar line to a later one. */
function pulsesOfBars({ meters }: SongMap, from: number, to: number): number {
  const changes = meters.meters.map((m) => m.bar).filter((bar) => bar > from && bar < to);
  const edges = [from, ...changes, to];
  return changes
    .concat(to)
    .reduce((n, end, i) => n + (end - edges[i]!) * meters.pulsesIn(edges[i]!).length, 0);
}

function pulsesBetween(map: SongMap, from: number, to: number): number {
  const [a, b] = [from, to].map((seconds) => map.meters.toBar(map.tempo.toQuarters(seconds)));
  if (!a || !b) return 0;
  const whole = pulsesOfBars(map, Math.min(a.bar, b.bar), Math.max(a.bar, b.bar));
  return (
    Math.sign(b.bar - a.bar) * whole +
    pulseInBar(map, b.bar, b.quartersInBar) -
    pulseInBar(map, a.bar, a.quartersInBar)
  );
}

function secondsAfterPulses(map: SongMap, from: number, pulses: number): number {
  const { meters, tempo } = map;
  const start = meters.toBar(tempo.toQuarters(from));
  let bar = start.bar;
  let left = pulseInBar(map, bar, start.quartersInBar) + pulses;
  while (left < 0) left += meters.pulsesIn(--bar).length;
  for (let length = meters.pulsesIn(bar).length; left >= length; length = meters.pulsesIn(++bar).length)
    left -= length;
  const begins = [...meters.pulsesIn(bar), meters.barToQuarters(bar + 1)];
  const k = Math.floor(left);
  return tempo.toSeconds(begins[k]! + (left - k) * (begins[k + 1]! - begins[k]!));
}

/** A distance of so many frames from a place on, in all units. */
export function distanceOf({ map, fromSeconds, rateHz }: DistanceOrigin, frames: number): Distance {
  const seconds = frames / rateHz;
  if (!map) return { bars: null, pulses: null, seconds, frames };
  const to = fromSeconds + seconds;
  return {
    bars: barPlace(map, to) - barPlace(map, fromSeconds),
    pulses: pulsesBetween(map, fromSeconds, to),
    seconds,
    frames,
  };
}

/** Frames of a distance from a place on, to the nearest one; 0 for bars and pulses without a map. */
export function framesOfDistance(origin: DistanceOrigin, unit: DistanceUnit, amount: number): number {
  const { map, fromSeconds, rateHz } = origin;
  const inFrames = (seconds: number): number => Math.round(seconds * rateHz) + 0;
  if (unit === 'frames') return Math.round(amount) + 0;
  if (unit === 'seconds') return inFrames(amount);
  if (!map) return 0;
  const to =
    unit === 'bars'
      ? secondsAtBar(map, barPlace(map, fromSeconds) + amount)
      : secondsAfterPulses(map, fromSeconds, amount);
  return inFrames(to - fromSeconds);
}
