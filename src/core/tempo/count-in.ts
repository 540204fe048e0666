import { type Meter, pulseLengths } from '../time';
import { meterOf } from './adjust';
import type { Bars } from './bar-path';
import type { Role, Stream } from './streams';

/** Those who count in: sticks, claps, a click; whatever drum microphones make of them. Somebody who talks is no music either. */
const COUNTS: ReadonlySet<Role> = new Set(['hat', 'snare', 'percussion', 'crash', 'click', 'line']);
/** Those who make it music. */
const MUSIC: ReadonlySet<Role> = new Set(['kick', 'bass', 'chords']);
/** A count takes this many bars at most (common practice, no source). */
const MOST_BARS = 2;
/** Hits weaker than this are bleed or a chair (own). */
const CLEAR = 0.35;
/** Where in the last bar of a count somebody may come in early, as a share of it: a pickup. */
const PICKUP_FROM = 0.55;
/** A stroke of a count is so near to a pulse, as a share of it (own). */
const ON_PULSE = 0.17;
/** A count has strokes on at least this share of its pulses: 1 3 1 2 3 4. */
const LEAST_STRUCK = 0.5;
/** So many hits make the bars after it music. */
const FEWEST_HITS = 3;

/**
 * The bars without the count before the music: its pulses come before bar 1. A count is one or two bars in which nothing
 * is struck but pulses, by sticks, hands or a click, before the bar in which the band comes in.
 */
export function withoutCountIn(beats: readonly number[], bars: Bars, streams: readonly Stream[]): Bars {
  for (let count = MOST_BARS; count >= 1; count--) {
    const openings = openingsOf(beats, bars, count + 2);
    if (openings === null) continue;
    const music = musicIn(streams, openings[count] as number, openings[count + 1] as number, CLEAR);
    const areCounted = openings.slice(0, count).every((from, k) => {
      const to = openings[k + 1] as number;
      const until = k === count - 1 ? from + PICKUP_FROM * (to - from) : to;
      return isCounted(beats, streams, { from, to, until });
    });
    if (music >= FEWEST_HITS && areCounted) return dropBars(bars, count);
  }
  return bars;
}

/** Moments at which the first bars begin; null where the song has fewer. */
function openingsOf(beats: readonly number[], bars: Bars, count: number): number[] | null {
  const out: number[] = [];
  let at = bars.firstDownbeat;
  for (let bar = 1; bar <= count; bar++) {
    const t = beats[at];
    if (t === undefined) return null;
    out.push(t);
    at += pulseLengths(meterOf(bars, bar)).length;
  }
  return out;
}

const musicIn = (streams: readonly Stream[], from: number, to: number, least: number): number =>
  streams
    .filter((s) => MUSIC.has(s.role))
    .reduce(
      (n, s) =>
        n + s.seconds.filter((t, i) => t >= from && t < to && (s.strength[i] as number) >= least).length,
      0,
    );

/** Whether a bar is counted: pulses are struck, and no music before `until`. */
function isCounted(
  beats: readonly number[],
  streams: readonly Stream[],
  bar: { readonly from: number; readonly to: number; readonly until: number },
): boolean {
  const own = beats.filter((t) => t >= bar.from - 0.01 && t < bar.to - 0.01);
  const reach = (ON_PULSE * (bar.to - bar.from)) / own.length;
  if (musicIn(streams, bar.from - reach, bar.until - reach, CLEAR) > 0) return false;
  const struck = streams
    .filter((s) => COUNTS.has(s.role) && s.role !== 'line')
    .flatMap((s) =>
      s.seconds.filter(
        (t, i) => t >= bar.from - reach && t < bar.until - reach && (s.strength[i] as number) >= CLEAR,
      ),
    );
  const isOn = (t: number): boolean => own.some((b) => Math.abs(b - t) <= reach);
  const whole = streams
    .filter((s) => COUNTS.has(s.role) && s.role !== 'line')
    .flatMap((s) => s.seconds.filter((t) => t >= bar.from - reach && t < bar.to - reach));
  const hit = own.filter((b) => whole.some((t) => Math.abs(b - t) <= reach)).length;
  return struck.every(isOn) && hit >= LEAST_STRUCK * own.length;
}

/** The same bars, called from a later one on. */
function dropBars(bars: Bars, count: number): Bars {
  const dropped = Array.from({ length: count }, (_, i) => pulseLengths(meterOf(bars, i + 1)).length);
  const first: Meter = { ...meterOf(bars, count + 1), bar: 1 };
  return {
    ...bars,
    firstDownbeat: bars.firstDownbeat + dropped.reduce((a, n) => a + n, 0),
    meters: [
      first,
      ...bars.meters.filter((m) => m.bar > count + 1).map((m) => ({ ...m, bar: m.bar - count })),
    ],
  };
}
