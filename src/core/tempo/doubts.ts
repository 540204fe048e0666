import { median } from '../dsp';
import type { MapFacts } from '../session';
import { pulseLengths } from '../time';
import { meterOf } from './adjust';
import type { Passage, TempoReading } from './reading';

/** A pulse and how sure it is, 0–1. */
interface RatedPulse {
  readonly seconds: number;
  readonly confidence: number;
}

/** A pulse or the bar line on it, as a place to listen to. */
export interface RatedPlace extends RatedPulse {
  readonly isBarLine: boolean;
}

const DOUBTFUL_BELOW = 0.75;
/** Bar lines less sure than this are doubtful: of those a little surer, all but few are right. */
const DOUBTFUL_BAR_BELOW = 0.5;
const APART_SECONDS = 4;

/** Indices of the pulses that open bars, from bar 1 on. */
export function barOpenings(reading: Pick<TempoReading, 'beats' | 'firstDownbeat' | 'meters'>): number[] {
  const out: number[] = [];
  for (
    let bar = 1, at = reading.firstDownbeat;
    at < reading.beats.length;
    at += pulseLengths(meterOf(reading, bar)).length, bar++
  )
    out.push(at);
  return out;
}

/** All pulses with how sure they are; where a bar line is doubtful, that counts if it is the less sure. */
export function ratedPlaces(reading: TempoReading): RatedPlace[] {
  const openings = new Set(reading.begins ? barOpenings(reading) : []);
  return reading.beats.map((seconds, i) => {
    const [confidence, begins] = [reading.confidence[i] ?? 0, reading.begins?.[i] ?? 1];
    const isBarLine = openings.has(i) && begins < DOUBTFUL_BAR_BELOW && begins < confidence;
    return { seconds, confidence: isBarLine ? begins : confidence, isBarLine };
  });
}

/** So many pulses around each are looked at together, and so many make a passage. */
const LOOSE_REACH = 4;
const FEWEST_LOOSE = 6;
/** Hits so much farther from the pulses than is usual in the song, and so far at all, s, keep to nothing (own, from sessions of our own making). */
const LOOSE_TIMES = 2.2;
const LOOSE_SECONDS = 0.014;

/** Where hardly anything keeps to the pulses, so that they are guesses: a free introduction, a break, an end held back. `off` = how far what was heard is from each pulse, s; NaN where nothing was. In order of time. */
export function loosePassages(beats: readonly number[], off: readonly number[]): Passage[] {
  const around = beats.map((_, i) => {
    const near = off.slice(Math.max(0, i - LOOSE_REACH), i + LOOSE_REACH + 1).filter((x) => !Number.isNaN(x));
    return near.length === 0 ? 0 : Math.sqrt(near.reduce((a, x) => a + x * x, 0) / near.length);
  });
  const least = Math.max(LOOSE_SECONDS, LOOSE_TIMES * median(around));
  const out: Passage[] = [];
  for (let from = 0; from < beats.length; from++) {
    if ((around[from] as number) < least) continue;
    let to = from;
    // A few pulses that happen to be met do not part a passage.
    for (let next = to + 1; next < beats.length && next <= to + LOOSE_REACH; next++)
      if ((around[next] as number) >= least) to = next;
    if (to - from + 1 >= FEWEST_LOOSE)
      out.push({ from: beats[from] as number, to: beats[Math.min(beats.length - 1, to + 1)] as number });
    from = to;
  }
  return out;
}

/** The places of a map most worth a listen: least certain first chosen, none within four seconds of another or of one that was found right, at most `most`; in order of time. `below` = what counts as doubtful. */
export function leastCertain<T extends RatedPulse>(
  pulses: readonly T[],
  {
    most = 5,
    below = DOUBTFUL_BELOW,
    checked = [],
  }: { readonly most?: number; readonly below?: number; readonly checked?: MapFacts['checked'] } = {},
): T[] {
  const isRight = (p: T): boolean =>
    checked.some((c) => c.right && Math.abs(c.seconds - p.seconds) <= APART_SECONDS);
  const sorted = pulses
    .filter((p) => p.confidence < below && !isRight(p))
    .sort((a, b) => a.confidence - b.confidence);
  const kept: T[] = [];
  for (const p of sorted)
    if (kept.length < most && kept.every((k) => Math.abs(k.seconds - p.seconds) > APART_SECONDS))
      kept.push(p);
  return kept.sort((a, b) => a.seconds - b.seconds);
}
