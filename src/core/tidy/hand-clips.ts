import { type Clip, type FadeShape, type Lane, lanesOf, type Track, wholeClip } from '../session';
import { hashText } from '../units';

/** A track whose pieces are worked on by hand. Frames are those of the session. */
export interface HandTrack {
  readonly track: Track;
  /** Frames of the sound of a lane at the session's rate; 0 = it is not there. */
  readonly lengthOf: (lane: Lane) => number;
}

/** A clip whose edges are both told. */
export interface ToldClip extends Clip {
  readonly fromFrames: number;
  readonly toFrames: number;
}

/** What a tool makes of the clips of a track; null = there is nothing it could do. */
export type HandResult = readonly Clip[] | null;

/** Edges of tracks that are cut together are one edge within so many seconds. */
export const SAME_EDGE_SECONDS = 0.02;

/** Shortest piece that is left of another, frames. */
const SHORTEST = 16;

const laneOf = ({ track }: HandTrack, laneId: string): Lane =>
  lanesOf(track).find((l) => l.id === laneId) as Lane;

/** First frame at which a clip's sound could be heard, and the first after it. */
function reachOf(hand: HandTrack, clip: Pick<Clip, 'laneId' | 'slipFrames'>): readonly [number, number] {
  const lane = laneOf(hand, clip.laneId);
  const begin = lane.startFrames + clip.slipFrames;
  return [begin, begin + hand.lengthOf(lane)];
}

/** The clips of a track with their edges told, as far as there is sound, in order; one of which none is left is not among them. */
export function toldClips(hand: HandTrack): ToldClip[] {
  return hand.track.clips.flatMap((clip): ToldClip[] => {
    const [begin, end] = reachOf(hand, clip);
    const told = {
      ...clip,
      fromFrames: Math.max(begin, clip.fromFrames ?? begin),
      toFrames: Math.min(end, clip.toFrames ?? end),
    };
    return told.toFrames > told.fromFrames ? [told] : [];
  });
}

/** Clips as they are kept: an edge at the end of its sound stays open, so that a longer recording in its place is heard whole. */
export function keptClips(hand: HandTrack, clips: readonly ToldClip[]): readonly Clip[] {
  const sorted = fitted([...clips].sort((a, b) => a.fromFrames - b.fromFrames));
  const out = sorted.map((clip, i): Clip => {
    const [begin, end] = reachOf(hand, clip);
    const { laneId, slipFrames } = clip;
    return {
      ...clip,
      // The same done twice, by two people at once, is one.
      id: `clip-${hashText(`${laneId} ${slipFrames} ${clip.fromFrames} ${clip.toFrames}`)}`,
      fromFrames: i === 0 && clip.fromFrames === begin ? null : clip.fromFrames,
      toFrames: i === sorted.length - 1 && clip.toFrames === end ? null : clip.toFrames,
    };
  });
  const [only] = out;
  const [whole] = wholeClip(only?.laneId ?? '');
  return only && out.length === 1 && isSame(only, { ...whole, id: only.id }) ? [whole] : out;
}

/** Clips in order whose fades fit into them, and which overlap only while both fade: the earlier one gives way. */
function fitted(sorted: readonly ToldClip[]): ToldClip[] {
  const out: ToldClip[] = [];
  for (const clip of sorted.toReversed()) {
    const [next, second] = out.slice(-2).toReversed();
    const cross = next ? Math.min(clip.fadeOutFrames, next.fadeInFrames) : 0;
    const toFrames = Math.min(
      clip.toFrames,
      next ? next.fromFrames + cross : Infinity,
      second ? second.fromFrames : Infinity,
    );
    const length = toFrames - clip.fromFrames;
    if (length < 1 || next?.fromFrames === clip.fromFrames) continue;
    const fadeOutFrames = Math.min(toFrames < clip.toFrames ? cross : clip.fadeOutFrames, length);
    // What remains of the fade out still covers the overlap: it is no longer than the cross-over.
    out.push({
      ...clip,
      toFrames: Math.min(toFrames, next ? next.fromFrames + fadeOutFrames : Infinity),
      fadeOutFrames,
      fadeInFrames: Math.min(clip.fadeInFrames, length - fadeOutFrames),
    });
  }
  return out.toReversed();
}

const isSame = (a: Clip, b: Clip): boolean => JSON.stringify(a) === JSON.stringify({ ...a, ...b });

/** The piece that is heard at a frame; of two that cross over the later. */
export const clipAt = (clips: readonly ToldClip[], at: number): ToldClip | null =>
  clips.findLast((c) => at >= c.fromFrames && at < c.toFrames) ?? null;

/** What is heard of a track at a frame. */
export interface HeardAt {
  readonly lane: Lane;
  /** By how much its sound was moved. */
  readonly slipFrames: number;
  /** Frame of the lane's recording. */
  readonly soundFrame: number;
}

/** The sound of a track at a frame: that of the piece there, else of the nearest; null = nothing of it sounds anywhere. */
export function heardAt(hand: HandTrack, at: number): HeardAt | null {
  const far = (c: ToldClip): number => Math.max(c.fromFrames - at, at - (c.toFrames - 1), 0);
  const clips = toldClips(hand);
  const near = clips.reduce<ToldClip | null>((best, c) => (best && far(best) <= far(c) ? best : c), null);
  const clip = clipAt(clips, at) ?? near;
  if (!clip) return null;
  const lane = laneOf(hand, clip.laneId);
  return {
    lane,
    slipFrames: clip.slipFrames,
    soundFrame: Math.round(at) - lane.startFrames - clip.slipFrames,
  };
}

/** Changes the piece at a frame. */
function changedAt(
  hand: HandTrack,
  at: number,
  change: (clip: ToldClip, clips: readonly ToldClip[]) => readonly ToldClip[] | null,
): HandResult {
  const clips = toldClips(hand);
  const clip = clipAt(clips, at);
  const made = clip && change(clip, clips);
  return made
    ? keptClips(
        hand,
        clips.flatMap((c) => (c === clip ? made : [c])),
      )
    : null;
}

/** Parts the piece at a frame in two that meet there: it sounds as before. */
export const splitAt = (hand: HandTrack, at: number): HandResult =>
  changedAt(hand, at, (c) =>
    at - c.fromFrames < Math.max(SHORTEST, c.fadeInFrames) ||
    c.toFrames - at < Math.max(SHORTEST, c.fadeOutFrames)
      ? null
      : [
          { ...c, toFrames: at, fadeOutFrames: 0 },
          { ...c, fromFrames: at, fadeInFrames: 0 },
        ],
  );

/** Takes the piece at a frame out; the last one of a track stays: a track of which nothing sounds is one that is muted. */
export const removeAt = (hand: HandTrack, at: number): HandResult =>
  changedAt(hand, at, (_, clips) => (clips.length > 1 ? [] : null));

/** Keeps the piece at a frame, silent, or lets it sound again. */
export const muteAt = (hand: HandTrack, at: number): HandResult =>
  changedAt(hand, at, (c) => [{ ...c, off: !c.off }]);

/** The level of the piece at a frame, dB. */
export const levelAt = (hand: HandTrack, at: number, gainDb: number): HandResult =>
  changedAt(hand, at, (c) => (c.gainDb === gainDb ? null : [{ ...c, gainDb }]));

/** Fades of a piece; what is not named stays. */
export interface HandFades {
  readonly inFrames?: number;
  readonly outFrames?: number;
  readonly shape?: FadeShape;
}

/** The fades of the piece at a frame, together no longer than it. */
export const fadeAt = (hand: HandTrack, at: number, fades: HandFades): HandResult =>
  changedAt(hand, at, (c) => {
    const length = c.toFrames - c.fromFrames;
    const fadeInFrames = Math.min(fades.inFrames ?? c.fadeInFrames, length);
    return [
      {
        ...c,
        fadeInFrames,
        fadeOutFrames: Math.min(fades.outFrames ?? c.fadeOutFrames, length - fadeInFrames),
        fadeInShape: fades.shape ?? c.fadeInShape,
        fadeOutShape: fades.shape ?? c.fadeOutShape,
      },
    ];
  });

/** Joins the piece at a frame with the next: what lies between comes back. Null where they are of different lanes, or one was moved against the other. */
export function joinAt(hand: HandTrack, at: number): HandResult {
  const clips = toldClips(hand);
  const one = clipAt(clips, at);
  const next = one && clips[clips.indexOf(one) + 1];
  if (!one || !next || next.laneId !== one.laneId || next.slipFrames !== one.slipFrames) return null;
  const joined = {
    ...one,
    toFrames: next.toFrames,
    fadeOutFrames: next.fadeOutFrames,
    fadeOutShape: next.fadeOutShape,
  };
  return keptClips(
    hand,
    clips.flatMap((c) => (c === one ? [joined] : c === next ? [] : [c])),
  );
}

/** Moves the sound under the piece at a frame by so many frames; its edges stay, as far as there is sound for them. */
export const slipAt = (hand: HandTrack, at: number, by: number): HandResult =>
  changedAt(hand, at, (c) => {
    const slipped = { ...c, slipFrames: c.slipFrames + Math.round(by) };
    const [begin, end] = reachOf(hand, slipped);
    const [fromFrames, toFrames] = [Math.max(begin, c.fromFrames), Math.min(end, c.toFrames)];
    return by === 0 || toFrames - fromFrames < SHORTEST ? null : [{ ...slipped, fromFrames, toFrames }];
  });

/** Puts an edge of the piece at a frame elsewhere: as far as there is sound, and over its neighbour, which gives way. Over a gap to what it was parted from they are one again; over the whole of itself it is gone. */
export function edgeAt(hand: HandTrack, at: number, edge: 'begin' | 'end', to: number): HandResult {
  const clips = toldClips(hand);
  const clip = clipAt(clips, at);
  if (!clip) return null;
  const [begin, end] = reachOf(hand, clip);
  const place = Math.max(begin, Math.min(end, Math.round(to)));
  const moved = edge === 'begin' ? { ...clip, fromFrames: place } : { ...clip, toFrames: place };
  if (moved.fromFrames === clip.fromFrames && moved.toFrames === clip.toFrames) return null;
  if (moved.toFrames - moved.fromFrames < SHORTEST) return removeAt(hand, at);
  const met = clips.find(
    (c) => isPartedFrom(clip, c) && moved.fromFrames <= c.toFrames && moved.toFrames >= c.fromFrames,
  );
  if (met) return joinAt(hand, Math.min(met.fromFrames, clip.fromFrames));
  const rest = carved(
    clips.filter((c) => c !== clip),
    moved.fromFrames,
    moved.toFrames,
  );
  return keptClips(hand, [...rest, withoutEndFades(moved, begin, end)]);
}

/** Where the sound itself begins or ends nothing was cut. */
const withoutEndFades = (clip: ToldClip, begin: number, end: number): ToldClip => ({
  ...clip,
  fadeInFrames: clip.fromFrames === begin ? 0 : clip.fadeInFrames,
  fadeOutFrames: clip.toFrames === end ? 0 : clip.fadeOutFrames,
});

/** Whether two pieces are of one sound where it was, with something taken out between them. */
const isPartedFrom = (a: ToldClip, b: ToldClip): boolean =>
  a.laneId === b.laneId &&
  a.slipFrames === b.slipFrames &&
  (a.toFrames < b.fromFrames || b.toFrames < a.fromFrames);

/** Puts the edge elsewhere that is nearest to `edge`, within so many frames; where two pieces meet, both have it. */
export function pullEdge(
  hand: HandTrack,
  edge: number,
  { to, within }: { readonly to: number; readonly within: number },
): HandResult {
  const clips = toldClips(hand);
  const edges = clips.flatMap((c) => [
    { at: c.fromFrames, side: 'begin' as const, clip: c },
    { at: c.toFrames, side: 'end' as const, clip: c },
  ]);
  const far = (e: { readonly at: number }): number => Math.abs(e.at - edge);
  const nearest = edges.reduce((best, e) => Math.min(best, far(e)), Infinity);
  const found = edges.filter((e) => far(e) === nearest);
  // The piece that grows: the other gives way.
  const own = found.find((e) => (e.side === 'end' ? to > e.at : to < e.at)) ?? found[0];
  return own && nearest <= within ? edgeAt(hand, own.clip.fromFrames, own.side, to) : null;
}

/** Brings back what was taken out at a frame: of the piece before it, else of the one behind. */
export function bringBackAt(hand: HandTrack, at: number): HandResult {
  const clips = toldClips(hand);
  if (clipAt(clips, at)) return null;
  const [before, behind] = [clips.findLast((c) => c.toFrames <= at), clips.find((c) => c.fromFrames > at)];
  const byBefore = before && edgeAt(hand, before.fromFrames, 'end', behind?.fromFrames ?? Infinity);
  if (byBefore) return byBefore;
  return behind ? edgeAt(hand, behind.fromFrames, 'begin', before?.toFrames ?? -Infinity) : null;
}

/** Clips with nothing in a stretch. What is left of one at its sides keeps the fade of that side. */
function carved(clips: readonly ToldClip[], from: number, to: number): ToldClip[] {
  return clips.flatMap((c) => {
    if (c.toFrames <= from || c.fromFrames >= to) return [c];
    const [left, right] = [
      { ...c, toFrames: Math.min(c.toFrames, from), fadeOutFrames: 0 },
      { ...c, fromFrames: Math.max(c.fromFrames, to), fadeInFrames: 0 },
    ];
    return [left, right].filter((x) => x.toFrames - x.fromFrames >= SHORTEST);
  });
}

/** Fades where a track is cut at its ends, frames. */
export interface TrimFades {
  readonly inFrames: number;
  readonly outFrames: number;
}

/** Takes off a track what lies before and after a stretch, fading where something is cut; what is silent there stays. Null where nothing sounds outside of it, or nothing inside. */
export function trimmedTo(
  hand: HandTrack,
  { fromFrames, toFrames }: { readonly fromFrames: number; readonly toFrames: number },
  { inFrames, outFrames }: TrimFades,
): HandResult {
  const clips = toldClips(hand);
  const inside = clips.flatMap((c): ToldClip[] => {
    if (c.off || (c.fromFrames >= fromFrames && c.toFrames <= toFrames)) return [c];
    const [from, to] = [Math.max(c.fromFrames, fromFrames), Math.min(c.toFrames, toFrames)];
    if (to - from < SHORTEST) return [];
    const fadeInFrames = Math.min(from > c.fromFrames ? inFrames : c.fadeInFrames, to - from);
    const fadeOut = to < c.toFrames ? outFrames : c.fadeOutFrames;
    return [
      {
        ...c,
        fromFrames: from,
        toFrames: to,
        fadeInFrames,
        fadeOutFrames: Math.min(fadeOut, to - from - fadeInFrames),
      },
    ];
  });
  const isSameAsBefore = inside.length === clips.length && inside.every((c, i) => c === clips[i]);
  return isSameAsBefore || inside.every((c) => c.off) ? null : keptClips(hand, inside);
}

/** Lets a second of the piece at a frame sound from `to` on, in the place of what is there. */
export function duplicateAt(hand: HandTrack, at: number, to: number): HandResult {
  const clips = toldClips(hand);
  const clip = clipAt(clips, at);
  if (!clip) return null;
  const begin = Math.round(to);
  const end = begin + clip.toFrames - clip.fromFrames;
  if (begin < clip.toFrames && end > clip.fromFrames) return null;
  const copy = {
    ...clip,
    fromFrames: begin,
    toFrames: end,
    slipFrames: clip.slipFrames + begin - clip.fromFrames,
  };
  return keptClips(hand, [...carved(clips, begin, end), copy]);
}

/** Two pieces that meet, or nearly, and cross over instead. */
export interface CrossOver {
  readonly frames: number;
  readonly shape: FadeShape;
}

/** Lets the piece at a frame cross over into the next where both have sound for it; as much as there is. */
export function crossAt(hand: HandTrack, at: number, { frames, shape }: CrossOver): HandResult {
  const clips = toldClips(hand);
  const one = clipAt(clips, at);
  const next = one && clips[clips.indexOf(one) + 1];
  if (!one || !next) return null;
  const meeting = Math.round((one.toFrames + next.fromFrames) / 2);
  const half = Math.ceil(frames / 2);
  const from = Math.max(meeting - half, reachOf(hand, next)[0], one.fromFrames + one.fadeInFrames);
  const to = Math.min(meeting + half, reachOf(hand, one)[1], next.toFrames - next.fadeOutFrames);
  const overlap = to - from;
  if (overlap < 1) return null;
  return keptClips(
    hand,
    clips.map((c) =>
      c === one
        ? { ...c, toFrames: to, fadeOutFrames: overlap, fadeOutShape: shape }
        : c === next
          ? { ...c, fromFrames: from, fadeInFrames: overlap, fadeInShape: shape }
          : c,
    ),
  );
}

/** Where the sound comes from that stands in for a spoilt place. */
export interface RepairFrom {
  readonly laneId: string;
  /** Frame of the session at which, unmoved, that begins to sound. */
  readonly at: number;
  readonly cross: CrossOver;
}

/** Puts the sound of another place, or another lane, in the place of a stretch, crossing over at both ends. */
export function repairAt(
  hand: HandTrack,
  stretch: { readonly fromFrames: number; readonly toFrames: number },
  { laneId, at, cross }: RepairFrom,
): HandResult {
  const clips = toldClips(hand);
  const { fromFrames, toFrames } = stretch;
  const around = clips.find((c) => c.fromFrames < toFrames && c.toFrames > fromFrames);
  const patch: ToldClip = {
    ...wholeClip(laneId)[0],
    id: '',
    slipFrames: Math.round(fromFrames - at),
    gainDb: around?.gainDb ?? 0,
    fromFrames,
    toFrames,
  };
  const [begin, end] = reachOf(hand, patch);
  if (begin > fromFrames || end < toFrames || toFrames - fromFrames < SHORTEST) return null;
  const rest = carved(clips, fromFrames, toFrames);
  let result: HandTrack = { ...hand, track: { ...hand.track, clips: keptClips(hand, [...rest, patch]) } };
  const meets = (frame: number): boolean => rest.some((c) => c.toFrames === frame || c.fromFrames === frame);
  const crossed = (inside: number): void => {
    const clipsNow = crossAt(result, inside, cross);
    if (clipsNow) result = { ...result, track: { ...result.track, clips: clipsNow } };
  };
  // The beginning first: crossing moves only the edges at hand.
  if (meets(fromFrames)) crossed(fromFrames - 1);
  if (meets(toFrames)) crossed(Math.round((fromFrames + toFrames) / 2));
  return result.track.clips;
}
