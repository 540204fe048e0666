import type { BarRange } from '../session';
import { pulseQuarters, type SongMap, createSongMap } from '../time';

/** A moment of the performance and where it goes. */
export interface Peg {
  /** Seconds as played. */
  readonly played: number;
  /** Seconds after conforming. */
  readonly conformed: number;
}

/** Immutable relation between the time as played and the conformed time; outside its pegs everything moves and nothing stretches. */
export interface Warp {
  /** At least one, both coordinates strictly rising. */
  readonly pegs: readonly Peg[];
  toConformed(playedSeconds: number): number;
  /** Exact inverse of {@link toConformed}. */
  toPlayed(conformedSeconds: number): number;
  /** Conformed length over played length at a moment of the performance (of the stretch that begins there). */
  ratioAt(playedSeconds: number): number;
}

/** Ratios nearer to 1 than this are 1: over ten minutes they move nothing by a frame. */
const SAME_RATIO = 1e-8;

/** Builds a warp. Throws RangeError unless pegs are finite and strictly rising in both coordinates. */
export function createWarp(given: readonly Peg[]): Warp {
  if (given.length === 0) throw new RangeError('a warp needs a peg');
  given.forEach((p, i) => {
    const before = given[i - 1];
    if (!Number.isFinite(p.played) || !Number.isFinite(p.conformed))
      throw new RangeError(`peg ${i} is not finite`);
    if (before && (p.played <= before.played || p.conformed <= before.conformed))
      throw new RangeError(`peg ${i} does not come after peg ${i - 1}`);
  });
  const pegs = given.map((p) => ({ played: p.played, conformed: p.conformed }));
  /** Index of the last peg at or before `x` in `of`; −1 before the first. */
  const before = (x: number, of: keyof Peg): number => {
    let low = -1;
    let high = pegs.length - 1;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if ((pegs[mid] as Peg)[of] <= x) low = mid;
      else high = mid - 1;
    }
    return low;
  };
  const convert = (x: number, of: keyof Peg, into: keyof Peg): number => {
    const at = before(x, of);
    const a = pegs[Math.max(0, at)] as Peg;
    const b = at < 0 ? undefined : pegs[at + 1];
    return b ? a[into] + ((x - a[of]) * (b[into] - a[into])) / (b[of] - a[of]) : a[into] + (x - a[of]);
  };
  return {
    pegs,
    toConformed: (s) => convert(s, 'played', 'conformed'),
    toPlayed: (s) => convert(s, 'conformed', 'played'),
    ratioAt(s) {
      const at = before(s, 'played');
      const a = pegs[at];
      const b = pegs[at + 1];
      return a && b ? exactOne((b.conformed - a.conformed) / (b.played - a.played)) : 1;
    },
  };
}

const exactOne = (ratio: number): number => (Math.abs(ratio - 1) < SAME_RATIO ? 1 : ratio);

/** Part of the performance that a warp may stretch. */
export interface WarpRange {
  /** First moment that is tied to bars, s as played. */
  readonly startSeconds: number;
  /** Last one: a final chord with nothing after it rings on as it was played. */
  readonly endSeconds: number;
}

/** The warp from one map to another over the same music (equal quarters are the same moment of the music). Throws RangeError on an empty range. */
export function warpBetween(from: SongMap, to: SongMap, range: WarpRange): Warp {
  const [startQuarters, endQuarters] = [
    from.tempo.toQuarters(range.startSeconds),
    from.tempo.toQuarters(range.endSeconds),
  ];
  if (!(startQuarters < endQuarters))
    throw new RangeError('nothing lies between the start and the end of the range');
  const inside = [...from.tempo.corners(), ...to.tempo.corners()].filter(
    (q) => q > startQuarters && q < endQuarters,
  );
  const quarters = [startQuarters, ...new Set(inside.sort((a, b) => a - b)), endQuarters];
  const pegs = quarters.map((q) => ({ played: from.tempo.toSeconds(q), conformed: to.tempo.toSeconds(q) }));
  // Rounding can bring two places together that differ in the last bit only; one of them says it all.
  return createWarp(
    pegs.filter(
      (p, i) =>
        i === 0 ||
        (p.played > (pegs[i - 1] as Peg).played + 1e-9 &&
          p.conformed > (pegs[i - 1] as Peg).conformed + 1e-9),
    ),
  );
}

/**
 * A map of one tempo over the bars of another; the moment `anchorSeconds` stays where it is. `bpm` = pulses a minute.
 * Bars of `keep` stay as long as they were: there the map follows the players, moved as a whole.
 */
export function steadyMap(
  from: SongMap,
  bpm: number,
  anchorSeconds: number,
  keep: readonly BarRange[] = [],
): SongMap {
  const anchor = from.tempo.toQuarters(anchorSeconds);
  const quarterSeconds = 60 / (bpm * pulseQuarters(from.meters.meterAt(1)));
  const kept = keep.map((k) => ({
    from: from.meters.barToQuarters(k.fromBar),
    to: from.meters.barToQuarters(k.toBar + 1),
  }));
  const inKept = (q: number): boolean => kept.some((k) => q >= k.from && q < k.to);
  const places = [
    ...new Set([
      anchor,
      ...kept.flatMap((k) => [k.from, k.to, ...from.tempo.corners().filter((q) => q > k.from && q < k.to)]),
    ]),
  ].sort((a, b) => a - b);
  const quarters = [...places, (places.at(-1) as number) + 1];
  let seconds = 0;
  const points = quarters.map((q, i) => {
    const before = quarters[i - 1];
    if (before !== undefined)
      seconds += inKept((before + q) / 2)
        ? from.tempo.toSeconds(q) - from.tempo.toSeconds(before)
        : (q - before) * quarterSeconds;
    return { quarters: q, seconds };
  });
  const shift = anchorSeconds - (points.find((p) => p.quarters === anchor) as { seconds: number }).seconds;
  return createSongMap(
    points.map((p) => ({ quarters: p.quarters, seconds: p.seconds + shift })),
    from.meters.meters,
  );
}

/** A tempo to conform to, and why. */
export interface TargetProposal {
  /** Pulses a minute. */
  readonly bpm: number;
  /** The tempo that changes least, before rounding. */
  readonly exactBpm: number;
}

/** Rounding may change the song by so much at no cost: a third of what is heard in any material (common practice, no source). */
const FREE_ROUNDING = 0.003;

/** The tempo that changes the pulses least (least squares over the song), rounded to a whole or half one when that costs nothing. Null with fewer than two pulses. */
export function proposeTarget(pulseSeconds: readonly number[]): TargetProposal | null {
  const n = pulseSeconds.length;
  if (n < 2) return null;
  const middle = (n - 1) / 2;
  const mean = pulseSeconds.reduce((a, b) => a + b, 0) / n;
  let across = 0;
  let square = 0;
  pulseSeconds.forEach((s, i) => {
    across += (i - middle) * (s - mean);
    square += (i - middle) ** 2;
  });
  const exactBpm = (60 * square) / across;
  for (const step of [1, 0.5, 0.1]) {
    const rounded = Math.round(exactBpm / step) * step;
    if (Math.abs(rounded / exactBpm - 1) <= FREE_ROUNDING)
      return { bpm: Number(rounded.toFixed(1)), exactBpm };
  }
  return { bpm: Number(exactBpm.toFixed(2)), exactBpm };
}
