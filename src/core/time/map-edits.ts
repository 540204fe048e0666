import { createMeterMap } from './meter-map';
import type { SongMapFile } from './song-map';
import { createTempoMap, STEEPEST, type TempoPoint } from './tempo-map';

/*
 * A map written by hand: each of these gives a new one. Points are named by their index, places by quarters from the first
 * downbeat, tempi are quarters a minute. All throw RangeError, with the reason in words, for what no map can be.
 */

const withPoints = (file: SongMapFile, points: readonly TempoPoint[]): SongMapFile => ({
  ...file,
  points: createTempoMap(points).points,
});

function pointAt(file: SongMapFile, index: number): TempoPoint {
  const point = file.points[index];
  if (!point) throw new RangeError(`there is no point ${index}`);
  return point;
}

/** Time over so many quarters while the tempo goes evenly from one to another. */
const secondsBetween = (quarters: number, from: number, to: number): number =>
  Math.abs(to / from - 1) < 1e-9
    ? (60 * quarters) / from
    : (60 * quarters * Math.log(to / from)) / (to - from);

/** Other tempi from some points to their next ones, by index; all that follows comes earlier or later. */
function withTempi(
  file: SongMapFile,
  tempi: ReadonlyMap<number, { readonly from: number; readonly to: number }>,
): SongMapFile {
  let later = 0;
  return withPoints(
    file,
    file.points.map((p, i): TempoPoint => {
      const moved = { ...p, seconds: p.seconds + later };
      const [next, own] = [file.points[i + 1], tempi.get(i)];
      if (!next || !own) return moved;
      const across = next.quarters - p.quarters;
      later += secondsBetween(across, own.from, own.to) - (next.seconds - p.seconds);
      return { quarters: p.quarters, seconds: moved.seconds, ramp: own.to / own.from };
    }),
  );
}

/** The point sounds at another moment; its neighbours stay. */
export function movePoint(file: SongMapFile, index: number, seconds: number): SongMapFile {
  const point = pointAt(file, index);
  return withPoints(
    file,
    file.points.map((p, i) => (i === index ? { ...point, seconds } : p)),
  );
}

/** The tempo changes at another place instead: those on both sides stay as they are. All that follows comes earlier or later. */
export function shiftPoint(file: SongMapFile, index: number, quarters: number): SongMapFile {
  const [before, point, next] = [file.points[index - 1], pointAt(file, index), file.points[index + 1]];
  if (!before || !next) throw new RangeError('the first point and the last stay where they are');
  if (!(quarters > before.quarters && quarters < next.quarters))
    throw new RangeError('it would come before the point before it, or after the one after');
  const { tempoAt } = createTempoMap(file.points);
  const span = (from: TempoPoint, across: number): number =>
    secondsBetween(across, tempoAt(from.quarters), tempoAt(from.quarters) * (from.ramp ?? 1));
  const seconds = before.seconds + span(before, quarters - before.quarters);
  const later = seconds + span(point, next.quarters - quarters) - next.seconds;
  return withPoints(
    file,
    file.points.map((p, i) =>
      i < index ? p : i === index ? { ...p, quarters, seconds } : { ...p, seconds: p.seconds + later },
    ),
  );
}

/** The point has another tempo, up to the next one; ramps from it and to it go on to meet it. All that follows comes earlier or later. */
export function setPointTempo(file: SongMapFile, index: number, bpm: number): SongMapFile {
  if (!(bpm > 0)) throw new RangeError('a tempo must be above 0');
  const [point, before] = [pointAt(file, index), file.points[index - 1]];
  pointAt(file, index + 1);
  const { tempoAt } = createTempoMap(file.points);
  const tempi = new Map([
    [index, { from: bpm, to: point.ramp === undefined ? bpm : tempoAt(point.quarters) * point.ramp }],
  ]);
  if (before?.ramp !== undefined) tempi.set(index - 1, { from: tempoAt(before.quarters), to: bpm });
  return withTempi(file, tempi);
}

/** What stays where a ramp is put in or taken away: the moments of all points, or the tempo it begins with. */
export const RAMP_KEEPS = ['moments', 'tempi'] as const;
/** One of {@link RAMP_KEEPS}. */
export type RampKeeps = (typeof RAMP_KEEPS)[number];

/**
 * From the point the tempo goes evenly to that of the next one instead of jumping there, or holds again. With `tempi` all that follows
 * comes earlier or later; with `moments` nothing does, so that the ramp begins faster or slower than the tempo it takes the place of.
 */
export function setRamp(file: SongMapFile, index: number, on: boolean, keeps: RampKeeps): SongMapFile {
  const [point, next] = [pointAt(file, index), pointAt(file, index + 1)];
  if (on && index + 2 >= file.points.length)
    throw new RangeError('after the last point there is no other tempo to go to');
  const { tempoAt } = createTempoMap(file.points);
  if (keeps === 'moments') {
    const ramp = on
      ? rampTo(tempoAt(next.quarters), next.quarters - point.quarters, next.seconds - point.seconds)
      : undefined;
    return withPoints(
      file,
      file.points.map((p, i) =>
        i === index
          ? { quarters: p.quarters, seconds: p.seconds, ...(ramp === undefined ? {} : { ramp }) }
          : p,
      ),
    );
  }
  const from = tempoAt(point.quarters);
  return withTempi(file, new Map([[index, { from, to: on ? tempoAt(next.quarters) : from }]]));
}

/**
 * How many times as fast a ramp over so many quarters and seconds becomes that ends at a tempo, quarters a minute. With `r` times it begins
 * at `60 · quarters · ln r / ((r − 1) · seconds)`, the integral of a tempo even over quarters; its end rises with `r`.
 */
function rampTo(bpm: number, quarters: number, seconds: number): number {
  const endOf = (r: number): number =>
    (60 * quarters * (Math.abs(r - 1) < 1e-9 ? 1 : (r * Math.log(r)) / (r - 1))) / seconds;
  let [low, high] = [1 / STEEPEST, STEEPEST];
  if (bpm < endOf(low) || bpm > endOf(high))
    throw new RangeError('the next tempo is too far away to be reached evenly in that time');
  for (let i = 0; i < 60; i++) {
    const middle = Math.sqrt(low * high);
    if (endOf(middle) < bpm) low = middle;
    else high = middle;
  }
  return Math.sqrt(low * high);
}

/** A point more where the map already goes: nothing sounds elsewhere; within a ramp there are two then. */
export function splitAt(file: SongMapFile, quarters: number): SongMapFile {
  const map = createTempoMap(file.points);
  if (file.points.some((p) => Math.abs(p.quarters - quarters) < 1e-9)) return file;
  const i = file.points.findLastIndex((p) => p.quarters < quarters);
  const seconds = map.toSeconds(quarters);
  if (i < 0) return withPoints(file, [{ quarters, seconds }, ...file.points]);
  const before = file.points[i] as TempoPoint;
  if (before.ramp === undefined)
    return withPoints(file, [
      ...file.points.slice(0, i + 1),
      { quarters, seconds },
      ...file.points.slice(i + 1),
    ]);
  const first = map.tempoAt(quarters) / map.tempoAt(before.quarters);
  return withPoints(file, [
    ...file.points.slice(0, i),
    { ...before, ramp: first },
    { quarters, seconds, ramp: before.ramp / first },
    ...file.points.slice(i + 1),
  ]);
}

/** Without the points from one place to another, both included; two always stay. */
export function removePoints(file: SongMapFile, fromQuarters: number, toQuarters: number): SongMapFile {
  const kept = file.points.filter((p) => p.quarters < fromQuarters - 1e-9 || p.quarters > toQuarters + 1e-9);
  if (kept.length < 2) throw new RangeError('two points must stay');
  return withPoints(file, kept);
}

/** From one place to another so many times as fast; all that follows comes earlier or later. */
export function scaleTempo(
  file: SongMapFile,
  fromQuarters: number,
  toQuarters: number,
  factor: number,
): SongMapFile {
  if (!(factor > 0 && fromQuarters < toQuarters))
    throw new RangeError('a stretch of the song and a factor above 0 are needed');
  const split = splitAt(splitAt(file, fromQuarters), toQuarters);
  const at = split.points.findIndex((p) => Math.abs(p.quarters - fromQuarters) < 1e-9);
  const to = split.points.findIndex((p) => Math.abs(p.quarters - toQuarters) < 1e-9);
  const [a, b] = [split.points[at] as TempoPoint, split.points[to] as TempoPoint];
  const less = (b.seconds - a.seconds) * (1 - 1 / factor);
  return withPoints(
    file,
    split.points.map((p, i) =>
      i <= at
        ? p
        : i <= to
          ? { ...p, seconds: a.seconds + (p.seconds - a.seconds) / factor }
          : { ...p, seconds: p.seconds - less },
    ),
  );
}

/** One tempo for all; the first downbeat stays where it is. */
export function oneTempo(file: SongMapFile, bpm: number): SongMapFile {
  if (!(bpm > 0)) throw new RangeError('a tempo must be above 0');
  const seconds = createTempoMap(file.points).toSeconds(0);
  return withPoints(file, [
    { quarters: 0, seconds },
    { quarters: 1, seconds: seconds + 60 / bpm },
  ]);
}

/** The whole grid sounds later (or earlier: negative); the material stays. */
export const moveGrid = (file: SongMapFile, seconds: number): SongMapFile =>
  withPoints(
    file,
    file.points.map((p) => ({ ...p, seconds: p.seconds + seconds })),
  );

/** Only the points at bar lines, and the first and the last. */
export function pointsAtBars(file: SongMapFile): SongMapFile {
  const meters = createMeterMap(file.meters);
  return withPoints(
    file,
    file.points.filter(
      (p, i) => i === 0 || i === file.points.length - 1 || meters.toBar(p.quarters).quartersInBar < 1e-6,
    ),
  );
}

/** As few of the points as keep each of them within `tolerance` seconds of where it was; between those that stay the tempo holds, or if wanted ramps. */
export function fewestPoints(file: SongMapFile, tolerance: number, ramps = false): SongMapFile {
  const map = createTempoMap(file.points);
  const points = map
    .corners()
    .map((quarters): TempoPoint => ({ quarters, seconds: map.toSeconds(quarters) }));
  return withPoints(file, ramps ? fewestRamps(points, tolerance) : fewestSteps(points, tolerance));
}

/** Points that say the tempo at one of them, on either side. */
const AROUND = 2;
/** How many points a ramp may pass over: beyond that songs do not change evenly. */
const FURTHEST = 96;

/** Fewest ramps from point to point, each from the tempo around its beginning to that around its end. Cost: points × {@link FURTHEST}², less where ramps do not reach far. */
function fewestRamps(points: readonly TempoPoint[], tolerance: number): TempoPoint[] {
  const last = points.length - 1;
  const tempi = points.map((_, i) => {
    const [a, b] = [
      points[Math.max(0, i - AROUND)] as TempoPoint,
      points[Math.min(last, i + AROUND)] as TempoPoint,
    ];
    return (b.quarters - a.quarters) / (b.seconds - a.seconds);
  });
  const rampOf = (i: number, k: number): number =>
    Math.max(1 / STEEPEST_RAMP, Math.min(STEEPEST_RAMP, (tempi[k] as number) / (tempi[i] as number)));
  const fits = (i: number, k: number): boolean => {
    const { toSeconds } = createTempoMap([
      { ...(points[i] as TempoPoint), ramp: rampOf(i, k) },
      points[k] as TempoPoint,
    ]);
    return points.slice(i + 1, k).every((p) => Math.abs(toSeconds(p.quarters) - p.seconds) <= tolerance);
  };
  const steps = new Array<number>(points.length).fill(Infinity);
  const from = new Array<number>(points.length).fill(0);
  steps[0] = 0;
  for (let i = 0; i < last; i++) {
    // One that does not fit may be followed by one that does: a few more are tried.
    for (let [k, missed] = [i + 1, 0]; k <= Math.min(last, i + FURTHEST) && missed < 6; k++) {
      if (!fits(i, k)) missed++;
      else if ((steps[i] as number) + 1 < (steps[k] as number)) {
        steps[k] = (steps[i] as number) + 1;
        from[k] = i;
      }
    }
  }
  const kept: TempoPoint[] = [points[last] as TempoPoint];
  for (let k = last; k > 0; k = from[k] as number)
    kept.unshift({ ...(points[from[k] as number] as TempoPoint), ramp: rampOf(from[k] as number, k) });
  return kept;
}

/** A ramp changes the tempo at most so many times. */
const STEEPEST_RAMP = 3;

function fewestSteps(points: readonly TempoPoint[], tolerance: number): TempoPoint[] {
  const count = points.length;
  // Fewest segments to each point: straight lines from a point reach as far as all between lie within the tolerance.
  const steps = new Array<number>(count).fill(Infinity);
  const from = new Array<number>(count).fill(0);
  steps[0] = 0;
  for (let i = 0; i + 1 < count; i++) {
    const a = points[i] as TempoPoint;
    let [low, high] = [0, Infinity];
    for (let k = i + 1; k < count && low <= high; k++) {
      const b = points[k] as TempoPoint;
      const across = b.quarters - a.quarters;
      const slope = (b.seconds - a.seconds) / across;
      if (slope >= low && slope <= high && (steps[i] as number) + 1 < (steps[k] as number)) {
        steps[k] = (steps[i] as number) + 1;
        from[k] = i;
      }
      low = Math.max(low, (b.seconds - a.seconds - tolerance) / across);
      high = Math.min(high, (b.seconds - a.seconds + tolerance) / across);
    }
  }
  const kept: TempoPoint[] = [];
  for (let k = count - 1; ; k = from[k] as number) {
    kept.unshift(points[k] as TempoPoint);
    if (k === 0) break;
  }
  return kept;
}

/** From one place to another the tempi of another map instead; all that follows comes earlier or later. */
export function copyTempi(
  file: SongMapFile,
  other: SongMapFile,
  fromQuarters: number,
  toQuarters: number,
): SongMapFile {
  if (!(fromQuarters < toQuarters)) throw new RangeError('a stretch of the song is needed');
  const own = splitAt(splitAt(file, fromQuarters), toQuarters).points;
  const theirs = splitAt(splitAt(other, fromQuarters), toQuarters).points;
  const isWithin = (p: TempoPoint): boolean =>
    p.quarters >= fromQuarters - 1e-9 && p.quarters < toQuarters - 1e-9;
  const at = (points: readonly TempoPoint[], quarters: number): number =>
    createTempoMap(points).toSeconds(quarters);
  const shift = at(own, fromQuarters) - at(theirs, fromQuarters);
  const later = at(theirs, toQuarters) + shift - at(own, toQuarters);
  return withPoints(file, [
    ...own.filter((p) => p.quarters < fromQuarters - 1e-9),
    ...theirs.filter(isWithin).map((p) => ({ ...p, seconds: p.seconds + shift })),
    ...own.filter((p) => p.quarters >= toQuarters - 1e-9).map((p) => ({ ...p, seconds: p.seconds + later })),
  ]);
}
