/** One anchor: this musical place sounds at this moment. */
export interface TempoPoint {
  /** Quarter notes from the first downbeat (bar 1, beat 1 = 0). */
  readonly quarters: number;
  /** Seconds from the session's common zero. */
  readonly seconds: number;
  /** On the way to the next point the tempo changes evenly over the quarters, to this times what it begins with; missing or 1 = it holds. */
  readonly ramp?: number | undefined;
}

/** Immutable relation between time and music: between anchors the tempo holds or ramps; the outer tempi are carried on beyond them. */
export interface TempoMap {
  /** At least two anchors, both coordinates strictly rising. */
  readonly points: readonly TempoPoint[];
  /** Quarters of all points, and within ramps of so many places that straight lines between them are right to 0.2 ms: for what can only jump (MIDI, stretching). */
  corners(): number[];
  /** Musical place of a moment. */
  toQuarters(seconds: number): number;
  /** Moment of a musical place; the exact inverse of {@link toQuarters} (to 1 ns over ten hours). */
  toSeconds(quarters: number): number;
  /** Quarter notes a minute at a musical place (of the segment that begins there). */
  tempoAt(quarters: number): number;
}

/** A ramp's tempo may change by this factor at most, either way: steeper ones are slips of a hand. */
export const STEEPEST = 20;
/** How far straight lines may stray from a ramp, s. */
const STRAIGHT_SECONDS = 0.0002;
const MOST_CORNERS = 1000;

/** From one anchor to the next. Outside 0 … 1 of its span the tempo of its nearer end holds. */
interface Segment {
  readonly from: TempoPoint;
  readonly quarters: number;
  readonly seconds: number;
  /** Natural logarithm of the ramp; 0 = the tempo holds. */
  readonly bend: number;
}

/*
 * Evenly over the quarters: tempo b(x) = b0 (1 + (r − 1) x) for x = 0 … 1 over the segment. The time to x is
 * ∫ dx / b(x) = Δs · ln(1 + (r − 1) x) / ln r, and back x = (r^y − 1) / (r − 1) for the share y of the time (calculus, no source).
 */
function timeShare({ bend }: Segment, x: number): number {
  if (bend === 0) return x;
  if (x < 0) return (x * Math.expm1(bend)) / bend;
  if (x > 1) return 1 + ((x - 1) * Math.expm1(bend)) / (Math.exp(bend) * bend);
  return Math.log1p(x * Math.expm1(bend)) / bend;
}

function placeShare({ bend }: Segment, y: number): number {
  if (bend === 0) return y;
  if (y < 0) return (y * bend) / Math.expm1(bend);
  if (y > 1) return 1 + ((y - 1) * Math.exp(bend) * bend) / Math.expm1(bend);
  return Math.expm1(y * bend) / Math.expm1(bend);
}

/** Quarters a minute at a share of a segment's way. */
function tempoIn({ quarters, seconds, bend }: Segment, x: number): number {
  const mean = (60 * quarters) / seconds;
  return bend === 0
    ? mean
    : (mean * bend * (1 + Math.expm1(bend) * Math.max(0, Math.min(1, x)))) / Math.expm1(bend);
}

/** Builds a map. Throws RangeError unless there are two or more points, finite and strictly rising in both coordinates, with ramps between 1/20 and 20. */
export function createTempoMap(points: readonly TempoPoint[]): TempoMap {
  if (points.length < 2) throw new RangeError('a tempo map needs at least two points');
  points.forEach((p, i) => {
    const before = points[i - 1];
    if (!Number.isFinite(p.quarters) || !Number.isFinite(p.seconds))
      throw new RangeError(`tempo point ${i} is not finite`);
    if (p.ramp !== undefined && !(p.ramp >= 1 / STEEPEST && p.ramp <= STEEPEST))
      throw new RangeError(`the ramp of tempo point ${i} is impossible: ${p.ramp}`);
    if (before && (p.quarters <= before.quarters || p.seconds <= before.seconds))
      throw new RangeError(`tempo point ${i} does not come after point ${i - 1}`);
  });
  const frozen = points.map((p, i): TempoPoint => ({
    quarters: p.quarters,
    seconds: p.seconds,
    ...(p.ramp !== undefined && p.ramp !== 1 && i + 1 < points.length ? { ramp: p.ramp } : {}),
  }));
  const segments = frozen.slice(0, -1).map((from, i): Segment => {
    const to = frozen[i + 1] as TempoPoint;
    return {
      from,
      quarters: to.quarters - from.quarters,
      seconds: to.seconds - from.seconds,
      bend: Math.log(from.ramp ?? 1),
    };
  });
  /** The segment that holds `x` in coordinate `of`; the first and last hold all beyond them. */
  const segment = (x: number, of: 'quarters' | 'seconds'): Segment => {
    let low = 0;
    let high = segments.length - 1;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if ((segments[mid] as Segment).from[of] <= x) low = mid;
      else high = mid - 1;
    }
    return segments[low] as Segment;
  };
  return {
    points: frozen,
    corners() {
      return [
        ...segments.flatMap((s) => {
          if (s.bend === 0) return [s.from.quarters];
          // The time's second derivative over x is largest at the slower end.
          const rate = Math.abs(Math.expm1(s.bend));
          const curved = (s.seconds * rate * rate) / (Math.abs(s.bend) * Math.min(1, Math.exp(s.bend)) ** 2);
          const steps = Math.min(MOST_CORNERS, Math.ceil(Math.sqrt(curved / (8 * STRAIGHT_SECONDS))));
          return Array.from(
            { length: Math.max(1, steps) },
            (_, k) => s.from.quarters + (k * s.quarters) / Math.max(1, steps),
          );
        }),
        (frozen.at(-1) as TempoPoint).quarters,
      ];
    },
    toQuarters(seconds) {
      const s = segment(seconds, 'seconds');
      if (s.bend === 0) return s.from.quarters + ((seconds - s.from.seconds) * s.quarters) / s.seconds;
      return s.from.quarters + s.quarters * placeShare(s, (seconds - s.from.seconds) / s.seconds);
    },
    toSeconds(quarters) {
      const s = segment(quarters, 'quarters');
      if (s.bend === 0) return s.from.seconds + ((quarters - s.from.quarters) * s.seconds) / s.quarters;
      return s.from.seconds + s.seconds * timeShare(s, (quarters - s.from.quarters) / s.quarters);
    },
    tempoAt(quarters) {
      const s = segment(quarters, 'quarters');
      return tempoIn(s, (quarters - s.from.quarters) / s.quarters);
    },
  };
}

/** Where the tempo changes: the moment in seconds, quarter notes a minute from there. Ramps are given in the steps of {@link TempoMap.corners}, each with its mean. */
export function tempoSegments(map: TempoMap): { readonly time: number; readonly bpm: number }[] {
  const corners = map.corners();
  const times = corners.map((q) => map.toSeconds(q));
  return corners.slice(0, -1).map((q, i) => ({
    time: times[i] as number,
    bpm: (60 * ((corners[i + 1] as number) - q)) / ((times[i + 1] as number) - (times[i] as number)),
  }));
}
