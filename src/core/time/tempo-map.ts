/** One anchor: this musical place sounds at this moment. */
export interface TempoPoint {
  /** Quarter notes from the first downbeat (bar 1, beat 1 = 0). */
  readonly quarters: number;
  /** Seconds from the session's common zero. */
  readonly seconds: number;
}

/** Immutable relation between time and music; constant tempo between anchors, the outer tempi carried on beyond them. */
export interface TempoMap {
  /** At least two anchors, both coordinates strictly rising. */
  readonly points: readonly TempoPoint[];
  /** Musical place of a moment. */
  toQuarters(seconds: number): number;
  /** Moment of a musical place; the exact inverse of {@link toQuarters} (to 1 ns over ten hours). */
  toSeconds(quarters: number): number;
  /** Quarter notes a minute at a musical place (of the segment that begins there). */
  tempoAt(quarters: number): number;
}

/** Builds a map. Throws RangeError unless there are two or more points, finite and strictly rising in both coordinates. */
export function createTempoMap(points: readonly TempoPoint[]): TempoMap {
  if (points.length < 2) throw new RangeError('a tempo map needs at least two points');
  points.forEach((p, i) => {
    const before = points[i - 1];
    if (!Number.isFinite(p.quarters) || !Number.isFinite(p.seconds)) throw new RangeError(`tempo point ${i} is not finite`);
    if (before && (p.quarters <= before.quarters || p.seconds <= before.seconds))
      throw new RangeError(`tempo point ${i} does not come after point ${i - 1}`);
  });
  const frozen = points.map((p) => ({ quarters: p.quarters, seconds: p.seconds }));
  /** Index of the segment that holds `x` in coordinate `of`; clamped to the first and last. */
  const segment = (x: number, of: 'quarters' | 'seconds'): readonly [TempoPoint, TempoPoint] => {
    let low = 0;
    let high = frozen.length - 2;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if ((frozen[mid] as TempoPoint)[of] <= x) low = mid;
      else high = mid - 1;
    }
    return [frozen[low] as TempoPoint, frozen[low + 1] as TempoPoint];
  };
  return {
    points: frozen,
    toQuarters(seconds) {
      const [a, b] = segment(seconds, 'seconds');
      return a.quarters + ((seconds - a.seconds) * (b.quarters - a.quarters)) / (b.seconds - a.seconds);
    },
    toSeconds(quarters) {
      const [a, b] = segment(quarters, 'quarters');
      return a.seconds + ((quarters - a.quarters) * (b.seconds - a.seconds)) / (b.quarters - a.quarters);
    },
    tempoAt(quarters) {
      const [a, b] = segment(quarters, 'quarters');
      return (60 * (b.quarters - a.quarters)) / (b.seconds - a.seconds);
    },
  };
}

/** The stretches of constant tempo: start in seconds, quarter notes a minute. */
export function tempoSegments(map: TempoMap): { readonly time: number; readonly bpm: number }[] {
  return map.points.slice(0, -1).map((p) => ({ time: p.seconds, bpm: map.tempoAt(p.quarters) }));
}
