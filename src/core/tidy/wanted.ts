import { levelStep } from '../analysis';
import { type Activity, activityOf, sharesOver, type WeighedLevels } from './activity';
import { framesOf } from './frame-math';
import type { HeardTrack } from './heard';
import { joined, type Span, spansWhere, without } from './spans';

/** A sound opens where it stands out by so many standard deviations, over 60 ms or in one frame; it goes on while it stands out by so many, over 180 ms or 60 ms. */
const OPEN = { short: 6, raw: 8 } as const;
const STAY = { long: 1.8, short: 3.3 } as const;
/** Gaps of a sound that are none, frames. */
const BREATHER = 3;
/** A sound still fades while it is so much over the floor and no more than that above its least level a moment before, dB; for so long at most. */
const FADING = { overDb: 2, riseDb: 1, memory: framesOf(0.12), most: framesOf(1.5) } as const;

/** Settings of the cut; times in seconds. */
export interface CutSettings {
  /** Level from which on something is a sound, dBFS; null = found by the floor. */
  readonly thresholdDb: number | null;
  /** Shorter gaps stay. */
  readonly shortestSeconds: number;
  readonly beforeSeconds: number;
  readonly afterSeconds: number;
}

/** What a stretch is weighed by besides the floor. */
export interface Unwanted {
  /** The floor and what spills in, power band by band and frame by frame; null = only the floor. */
  readonly spill: Float32Array | null;
  /** After each opening a sound is held for so long, frames: its ring lies under the bleed of others. */
  readonly hold: number;
}

export const NOTHING_UNWANTED: Unwanted = { spill: null, hold: 0 };

/** Frames that hold something wanted, told by the floor, without pads: spans in order, apart. */
export function wantedSpans(weighed: WeighedLevels, unwanted: Unwanted): Span[] {
  const { frames, zero } = weighed;
  const notZero = spansWhere(frames, (n) => zero[n] === 0);
  if (weighed.floorKind === null) return notZero;
  const activity = unwanted.spill ? activityOf(sharesOver(weighed.powers, unwanted.spill)) : weighed.activity;
  const held = opened(activity, weighed.faint).map(({ span, lastOpening }) => ({
    from: span.from,
    to: Math.max(span.to, heldUntil(weighed, lastOpening, unwanted.hold)),
  }));
  const faded = joined(held, BREATHER).map((s) => ({ from: s.from, to: fadesUntil(weighed, s.to) }));
  return without(
    joined(faded, 1),
    spansWhere(frames, (n) => zero[n] === 1),
  );
}

/** The level falls so far below a threshold before a sound that was above it is over, dB; so it does not flutter. */
const HYSTERESIS_DB = 6;

/** Frames above a threshold that was set by hand, with what fades below it. */
export function aboveThreshold(
  { frames, total }: Pick<HeardTrack, 'frames' | 'total'>,
  thresholdDb: number,
): Span[] {
  const step = (db: number): number => levelStep(10 ** (db / 10));
  const [opens, stays] = [step(thresholdDb), step(thresholdDb - HYSTERESIS_DB)];
  const is = (n: number, least: number): boolean => (total[n] as number) >= least;
  return spansWhere(frames, (n) => is(n, stays)).flatMap(({ from, to }) => {
    let first = from;
    while (first < to && !is(first, opens)) first++;
    return first === to ? [] : [{ from: first, to }];
  });
}

/** Whether a frame holds nothing but the floor. */
export const isFloor = ({ activity: { long, short } }: WeighedLevels, n: number): boolean =>
  (long[n] as number) <= STAY.long && (short[n] as number) <= STAY.short;

const isOpening = ({ raw, short }: Pick<Activity, 'raw' | 'short'>, n: number): boolean =>
  (short[n] as number) > OPEN.short || (raw[n] as number) > OPEN.raw;

/** Whether nothing stands out anywhere. */
export function isEven({ activity, frames }: WeighedLevels): boolean {
  for (let n = 0; n < frames; n++) if (isOpening(activity, n)) return false;
  return true;
}

/** Sounds, with the last frame in which each opens. */
function opened(
  { raw, short, long }: Activity,
  faint: Uint8Array,
): { readonly span: Span; readonly lastOpening: number }[] {
  const stays = (n: number): boolean => (long[n] as number) > STAY.long || (short[n] as number) > STAY.short;
  const opens = (n: number): boolean => isOpening({ raw, short }, n);
  return spansWhere(raw.length, (n) => faint[n] === 0 && (stays(n) || opens(n))).flatMap((span) => {
    let last = span.to - 1;
    while (last >= span.from && !opens(last)) last--;
    return last < span.from ? [] : [{ span, lastOpening: last }];
  });
}

/** Holds a sound from where it opened on, as long as anything at all stands out of the floor. */
function heldUntil(weighed: WeighedLevels, from: number, most: number): number {
  let end = from;
  while (end < weighed.frames && end - from < most && !isFloor(weighed, end)) end++;
  return end;
}

/** Follows a sound that fades, from its end on. */
function fadesUntil({ fading: level, faint }: WeighedLevels, from: number): number {
  let end = from;
  while (end < level.length && end - from < FADING.most) {
    const now = level[end] as number;
    let least = Infinity;
    for (let k = Math.max(0, end - FADING.memory); k < end; k++) least = Math.min(least, level[k] as number);
    if (faint[end] === 1 || now <= FADING.overDb || now > least + FADING.riseDb) break;
    end++;
  }
  return end;
}

/** Shorter zeros between sounds stay, s: taking nothing away changes nothing, and would only make more pieces. */
const ZEROS_SECONDS = 1;

/** So little before the first sound and after the last stays, s: nobody would cut it. */
const END_SECONDS = 0.14;

/** What stays: sounds with their pads, joined over short gaps; runs of zeros never do. */
export function keptSpans(
  { frames, zero }: Pick<HeardTrack, 'frames' | 'zero'>,
  wanted: readonly Span[],
  settings: CutSettings,
): Span[] {
  const [before, after] = [framesOf(settings.beforeSeconds), framesOf(settings.afterSeconds)];
  const padded = wanted.map((s) => ({
    from: Math.max(0, s.from - before),
    to: Math.min(frames, s.to + after),
  }));
  const whole = joined(padded, framesOf(settings.shortestSeconds));
  const zeros = spansWhere(frames, (n) => zero[n] === 1);
  const spans = without(
    whole,
    zeros.filter(
      (z) =>
        z.from === 0 ||
        z.to === frames ||
        z.to - z.from >= framesOf(Math.max(ZEROS_SECONDS, settings.shortestSeconds)),
    ),
  );
  const end = framesOf(END_SECONDS);
  return spans.map(({ from, to }) => ({
    from: from <= end ? 0 : from,
    to: to >= frames - end ? frames : to,
  }));
}
