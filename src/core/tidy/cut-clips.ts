import { hashText } from '../units';
import { type Clip, isWhole, type Lane, lanesOf, type Track, wholeClip } from '../session';

/** A stretch of a session, frames at its rate, half-open. */
export interface Stretch {
  readonly fromFrames: number;
  readonly toFrames: number;
}

/** The lane of a track that can be cut: it alone sounds or is silenced, where it was recorded. Null where a person arranged more than that. */
export function cutLane(track: Track): Lane | null {
  const [first] = track.clips;
  if (!first || track.tiedTo === 'bars') return null;
  const isPlain = track.clips.every((c) => c.laneId === first.laneId && c.slipFrames === 0);
  const sounds = track.clips.some((c) => !c.off);
  return isPlain && sounds ? (lanesOf(track).find((l) => l.id === first.laneId) ?? null) : null;
}

/** What sounds of a track as it is cut now; `lengthFrames` of the sound of its lane. */
export const keptStretches = (track: Track, lane: Lane, lengthFrames: number): Stretch[] =>
  stretchesOf(track, lane, lengthFrames, false);

/** What of it is there, and silent. */
export const silencedStretches = (track: Track, lane: Lane, lengthFrames: number): Stretch[] =>
  stretchesOf(track, lane, lengthFrames, true);

const stretchesOf = (track: Track, lane: Lane, lengthFrames: number, isOff: boolean): Stretch[] =>
  track.clips.flatMap((c) => {
    if (c.off !== isOff) return [];
    const [begin, end] = [lane.startFrames, lane.startFrames + lengthFrames];
    const [from, to] = [Math.max(begin, c.fromFrames ?? begin), Math.min(end, c.toFrames ?? end)];
    return to > from ? [{ fromFrames: from, toFrames: to }] : [];
  });

/** How a track is cut into clips. */
export interface CutOf {
  readonly lane: Lane;
  /** Of its sound. */
  readonly lengthFrames: number;
  /** In order, apart. */
  readonly kept: readonly Stretch[];
  /** At every edge that was cut. */
  readonly fadeFrames: number;
}

/** The clips of a track of which only some stretches stay: an end that was not cut stays open, and a piece keeps the level and the fades it had there. What was silenced stays silent, whatever is kept. */
export function cutClips(track: Track, { lane, lengthFrames, kept, fadeFrames }: CutOf): readonly Clip[] {
  const [begin, end] = [lane.startFrames, lane.startFrames + lengthFrames];
  const [whole] = wholeClip(lane.id);
  const silenced = silencedStretches(track, lane, lengthFrames);
  const clips = kept
    .flatMap((s) => without(s, silenced))
    .map(({ fromFrames, toFrames }): Clip => {
      const [isHead, isTail] = [fromFrames <= begin, toFrames >= end];
      const [first, last] = [clipAt(track, fromFrames), clipAt(track, toFrames - 1)];
      const fade = Math.min(fadeFrames, Math.floor((toFrames - fromFrames) / 2));
      return {
        ...whole,
        id: idOf(lane, { fromFrames, toFrames }),
        fromFrames: isHead ? null : fromFrames,
        toFrames: isTail ? null : toFrames,
        gainDb: first?.gainDb ?? last?.gainDb ?? 0,
        fadeInFrames: isHead ? (first?.fadeInFrames ?? 0) : fade,
        fadeOutFrames: isTail ? (last?.fadeOutFrames ?? 0) : fade,
      };
    });
  const silent = silenced.map((s): Clip => ({ ...whole, ...s, id: idOf(lane, s), off: true }));
  const [only] = clips;
  if (silent.length > 0) return [...clips, ...silent].sort(byTime);
  return clips.length === 1 && only && isWhole(only) ? [whole] : clips;
}

const byTime = (a: Clip, b: Clip): number => (a.fromFrames ?? -Infinity) - (b.fromFrames ?? -Infinity);

/** What of a stretch lies in none of others, which are in order. */
export function without({ fromFrames, toFrames }: Stretch, others: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = [];
  let at = fromFrames;
  for (const o of others) {
    if (o.fromFrames > at) out.push({ fromFrames: at, toFrames: Math.min(o.fromFrames, toFrames) });
    at = Math.max(at, o.toFrames);
  }
  if (at < toFrames) out.push({ fromFrames: at, toFrames });
  return out.filter((s) => s.toFrames > s.fromFrames && s.fromFrames < toFrames);
}

/** The same cut made twice, by two people at once, is one. */
const idOf = (lane: Lane, { fromFrames, toFrames }: Stretch): string =>
  `clip-${hashText(`${lane.id} ${fromFrames} ${toFrames}`)}`;

const clipAt = (track: Track, frame: number): Clip | undefined =>
  track.clips.find((c) => (c.fromFrames ?? -Infinity) <= frame && frame < (c.toFrames ?? Infinity));

/** Whether two cuts of a track are the same but for so many frames at each edge. */
export const isSameCut = (a: readonly Stretch[], b: readonly Stretch[], within: number): boolean =>
  a.length === b.length &&
  a.every((s, i) => {
    const o = b[i] as Stretch;
    return Math.abs(s.fromFrames - o.fromFrames) <= within && Math.abs(s.toFrames - o.toFrames) <= within;
  });

/** Where the levels of a session begin, frames at its rate: at its beginning, or before where something starts earlier. */
export const originOf = (tracks: readonly Track[]): number =>
  Math.min(0, ...tracks.map((t) => cutLane(t)?.startFrames ?? 0));
