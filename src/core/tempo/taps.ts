import { median } from '../dsp';
import { createMeterMap, type Meter, pulseLengths } from '../time';
import { estimateClock } from './clock';
import type { TempoReading } from './reading';

/** How somebody tapped along. */
export interface Tapping {
  /** When each tap came, s from the session's common zero, rising; the latency is taken out already. The first is on a downbeat. */
  readonly taps: readonly number[];
  /** Pulses from one tap to the next: a half, one, as many as a bar has, or several bars. */
  readonly pulsesPerTap: number;
  readonly meter: Pick<Meter, 'numerator' | 'denominator'>;
  /** Hits taps are drawn to, rising; none = they count as they came. */
  readonly hits: readonly number[];
}

/** Taps closer than this share of the usual are one hand's slip; those so many times apart have some left out between them. */
const SLIP = 0.45;
/** How far from a whole number of the usual gap a longer one may be. */
const NEAR_WHOLE = 0.22;
/** A tap is drawn to a hit no farther than this, s, and than this share of a tap's length. */
const DRAWN_SECONDS = 0.07;
const DRAWN_SHARE = 0.15;
/** How exactly hands tap, and hits lie, s (common practice: about 20 ms; no source). */
const HAND_SECONDS = 0.02;
const HIT_SECONDS = 0.006;
const FEWEST_TAPS = 4;

/** A reading of what was tapped. Throws RangeError, with the reason in words, for too few taps or ones without any order. */
export function readTaps({ taps, pulsesPerTap, meter, hits }: Tapping): TempoReading {
  const meters = createMeterMap([
    { bar: 1, numerator: meter.numerator, denominator: meter.denominator },
  ]).meters;
  if (taps.length < FEWEST_TAPS) throw new RangeError(`at least ${FEWEST_TAPS} taps are needed`);
  const usual = median(taps.slice(1).map((t, i) => t - (taps[i] as number)));
  if (!(usual > 0.05)) throw new RangeError('the taps come too fast to be told apart');
  // Places of the taps, counted in taps: slips are dropped, gaps of several count as several. The tempo may wander.
  const kept: { readonly at: number; readonly place: number; readonly isHit: boolean }[] = [];
  let gap = usual;
  for (const tap of taps) {
    const before = kept.at(-1);
    if (before && tap - before.at < SLIP * gap) continue;
    const { at, isHit } = drawn(tap, hits, gap);
    if (!before) {
      kept.push({ at, place: 0, isHit });
      continue;
    }
    const times = Math.max(1, Math.round((at - before.at) / gap));
    if (times > 1 && Math.abs((at - before.at) / gap - times) > NEAR_WHOLE * times)
      throw new RangeError(
        `between ${before.at.toFixed(1)} s and ${at.toFixed(1)} s the taps lose their order: tap again from there`,
      );
    gap = 0.6 * gap + (0.4 * (at - before.at)) / times;
    kept.push({ at, place: before.place + times, isHit });
  }
  if (kept.length < FEWEST_TAPS) throw new RangeError(`at least ${FEWEST_TAPS} taps are needed`);
  const moments = Array.from({ length: (kept.at(-1) as { place: number }).place + 1 }, (_, place) => {
    const tap = kept.find((k) => k.place === place);
    return tap
      ? { seconds: tap.at, spread: tap.isHit ? HIT_SECONDS : HAND_SECONDS }
      : { seconds: 0, spread: Infinity };
  });
  // Hands are less even than bands: the smooth clock between them is what was meant.
  const places = estimateClock(moments, usual);
  const at = (x: number): number => {
    const i = Math.max(0, Math.min(places.length - 2, Math.floor(x)));
    return (places[i] as number) + (x - i) * ((places[i + 1] as number) - (places[i] as number));
  };
  const count = Math.floor((places.length - 1) * pulsesPerTap + 1e-9) + 1;
  const beats = Array.from({ length: count }, (_, k) => at(k / pulsesPerTap));
  return {
    beats,
    confidence: beats.map(() => 0.9),
    firstDownbeat: 0,
    meters,
    steady: false,
    bpm: null,
    gridOffsetSeconds: null,
    timekeepers: [],
    alternatives: [],
  };
}

function drawn(
  tap: number,
  hits: readonly number[],
  gap: number,
): { readonly at: number; readonly isHit: boolean } {
  const reach = Math.min(DRAWN_SECONDS, DRAWN_SHARE * gap);
  let best: number | null = null;
  for (const h of hits)
    if (Math.abs(h - tap) <= reach && (best === null || Math.abs(h - tap) < Math.abs(best - tap))) best = h;
  return best === null ? { at: tap, isHit: false } : { at: best, isHit: true };
}

/** Pulses of one tap for a choice in words. */
export const tapLength = (
  each: 'half' | 'pulse' | 'bar' | 'two bars',
  meter: Pick<Meter, 'numerator' | 'denominator'>,
): number => {
  const bar = pulseLengths({ bar: 1, ...meter }).length;
  return { half: 0.5, pulse: 1, bar, 'two bars': 2 * bar }[each];
};

/** What is between hearing and tapping, s: the middle of how late taps come after the clicks before or after them. Null with too few. `clicks` rising. */
export function latencyOf(clicks: readonly number[], taps: readonly number[]): number | null {
  const late = taps.flatMap((t) => {
    const near = clicks.reduce((a, b) => (Math.abs(b - t) < Math.abs(a - t) ? b : a), Infinity);
    return Math.abs(t - near) < 0.3 ? [t - near] : [];
  });
  return late.length < FEWEST_TAPS ? null : median(late);
}
