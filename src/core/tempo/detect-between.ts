import { median } from '../dsp';
import { pulseLengths } from '../time';
import { err, ok, type Result } from '../units';
import { barOfPulse } from './adjust';
import { findBeatPath, PATH_PER_SECOND } from './beat-path';
import { toConsensus } from './clock';
import { levelled, rateBeats, type TempoFault, weighStreams } from './detect';
import type { TempoReading, TempoTrack } from './reading';
import { streamsOf } from './streams';
import { chooseTimekeepers, trackNovelty } from './timekeepers';

/** How far the tempo between two places may be from that around them. */
const WANDER = 1.45;
/** Pulses on either side that say how fast it goes there. */
const AROUND = 6;
/** How sure a bar begins at a pulse that was not there before. */
const UNKNOWN_BAR = 0.4;
/** What a frame is worth where a pulse is said to be, and where none can be. */
const SAID = 0.97;
const NONE = 0.003;

/**
 * Finds the pulses between two of a reading anew; those two, and all outside, stay. What was corrected around says how fast it
 * goes; bars after it count on from how many whole bars there are now. `timekeepers` as in `detectTempo`.
 */
export function detectBetween(
  tracks: readonly TempoTrack[],
  reading: TempoReading,
  from: number,
  to: number,
  timekeepers: readonly string[] | null,
): Result<TempoReading, TempoFault> {
  const { beats } = reading;
  const [a, b] = [beats[from], beats[to]];
  if (a === undefined || b === undefined || to - from < 2) return err({ code: 'tempo.nothing_found' });
  const choices = chooseTimekeepers(tracks, tracks.map(trackNovelty), timekeepers);
  const streams = streamsOf(
    tracks,
    choices.map((c) =>
      timekeepers ? Number(c.chosen) : Number(c.reason !== 'silent' && c.reason !== 'duplicate'),
    ),
  );
  if (streams.length === 0) return err({ code: 'tempo.no_timekeepers' });
  const gaps = beats.slice(1).map((t, i) => t - (beats[i] as number));
  const outside = [...gaps.slice(Math.max(0, from - AROUND), from), ...gaps.slice(to, to + AROUND)];
  const period = median(outside.length > 0 ? outside : gaps.slice(from, to)) * PATH_PER_SECOND;
  const fresh = between(levelled(weighStreams(streams), PATH_PER_SECOND), a, b, period);
  const found = toConsensus([a, ...fresh, b], streams, { rounds: 2 });
  const inside = found.beats
    .slice(1, -1)
    .map((t, i) => Math.max(a + 0.02 * (i + 1), Math.min(b - 0.02 * (fresh.length - i), t)));
  if (inside.some((t, i) => i > 0 && t <= (inside[i - 1] as number)))
    return err({ code: 'tempo.nothing_found' });
  const sure = rateBeats([a, ...inside, b], found.moments)
    .slice(1, -1)
    .map((c) => Math.max(0.05, Math.min(0.95, c)));
  const joined = <T>(list: readonly T[], middle: readonly T[]): T[] => [
    ...list.slice(0, from + 1),
    ...middle,
    ...list.slice(to),
  ];
  // Bars after it keep their numbers or move by as many as came in or went.
  const { bar } = barOfPulse(reading, from);
  const perBar = pulseLengths(
    reading.meters.findLast((m) => m.bar <= bar) ?? { bar: 1, numerator: 4, denominator: 4 },
  ).length;
  const more = inside.length - (to - from - 1);
  const meters =
    more % perBar === 0
      ? reading.meters.map((m) => (m.bar > bar ? { ...m, bar: m.bar + more / perBar } : m))
      : reading.meters;
  const isSound = meters.every((m, i) => i === 0 || m.bar > (meters[i - 1] as { bar: number }).bar);
  return ok({
    ...reading,
    steady: false,
    bpm: null,
    gridOffsetSeconds: null,
    endErrorSeconds: undefined,
    timekeepers: choices,
    meters: isSound ? meters : reading.meters,
    // Bars that kept their pulses are as sure as they were.
    begins:
      reading.begins &&
      joined(reading.begins, more === 0 ? reading.begins.slice(from + 1, to) : inside.map(() => UNKNOWN_BAR)),
    beats: joined(beats, inside),
    confidence: joined(reading.confidence, sure),
    pinned:
      reading.pinned &&
      joined(
        reading.pinned,
        inside.map(() => false),
      ),
  });
}

/** Pulses strictly between two moments, with a pulse at both; evenly spread where no way through keeps to them. */
function between(activation: Float32Array, a: number, b: number, period: number): number[] {
  const frame = (t: number): number => Math.round(t * PATH_PER_SECOND);
  const [first, last] = [frame(a), frame(b)];
  const free = Math.round(0.6 * period);
  const shortest = Math.max(8, Math.floor(period / WANDER));
  const slice = Float32Array.from({ length: last - first + 2 + shortest }, (_, i) => {
    const at = first + i;
    if (at === first || at === last) return SAID;
    return at < first + free || at > last - free ? NONE : (activation[at] ?? 0);
  });
  const path = findBeatPath(slice, shortest, Math.ceil(period * WANDER)).frames.map((f) => f + first);
  const [start, end] = [
    path.findIndex((f) => Math.abs(f - first) <= 3),
    path.findLastIndex((f) => Math.abs(f - last) <= 3),
  ];
  if (start >= 0 && end > start) return path.slice(start + 1, end).map((f) => f / PATH_PER_SECOND);
  const count = Math.max(1, Math.round((last - first) / period));
  return Array.from({ length: count - 1 }, (_, i) => a + ((b - a) * (i + 1)) / count);
}
