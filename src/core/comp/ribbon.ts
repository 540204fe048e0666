import type { Fade } from '../arrange';
import { type Clip, lanesOf, wholeClip } from '../session';
import { type HandTrack, keptClips, type ToldClip, toldClips } from '../tidy';

/** A stretch of a track in which one lane sounds, from edge to edge. */
export interface RibbonPiece {
  readonly laneId: string;
  readonly fromFrames: number;
  readonly toFrames: number;
  readonly slipFrames: number;
  readonly gainDb: number;
  readonly off: boolean;
  /** At its beginning: over what comes before where that meets it, else out of silence. */
  readonly fadeIn: Fade;
  readonly fadeOut: Fade;
}

/** No fade. */
export const SHARP: Fade = { frames: 0, shape: 'equal-gain' };

/** What sounds of a track as a ribbon, in order of time: where two clips cross over, the middle of that is the edge of both. */
export function ribbonOf(hand: HandTrack): RibbonPiece[] {
  const clips = toldClips(hand);
  const edges = clips.map((c, i) => {
    const next = clips[i + 1];
    return next && next.fromFrames < c.toFrames ? Math.round((c.toFrames + next.fromFrames) / 2) : null;
  });
  return clips.map((c, i) => ({
    laneId: c.laneId,
    fromFrames: edges[i - 1] ?? c.fromFrames,
    toFrames: edges[i] ?? c.toFrames,
    slipFrames: c.slipFrames,
    gainDb: c.gainDb,
    off: c.off,
    fadeIn: { frames: c.fadeInFrames, shape: c.fadeInShape },
    fadeOut: { frames: c.fadeOutFrames, shape: c.fadeOutShape },
  }));
}

/** Whether a piece goes on where another ends. */
export const meets = (one: RibbonPiece | undefined, next: RibbonPiece | undefined): boolean =>
  one !== undefined && next !== undefined && one.toFrames === next.fromFrames && !one.off && !next.off;

/** Whether two pieces that meet are one sound in one place, at one level. */
export const isOneSound = (a: RibbonPiece, b: RibbonPiece): boolean =>
  a.laneId === b.laneId && a.slipFrames === b.slipFrames && a.gainDb === b.gainDb && a.off === b.off;

/** A ribbon in which what goes on as it was is one piece. */
export function merged(pieces: readonly RibbonPiece[]): RibbonPiece[] {
  const out: RibbonPiece[] = [];
  for (const piece of pieces) {
    const last = out.at(-1);
    if (last?.toFrames === piece.fromFrames && isOneSound(last, piece))
      out[out.length - 1] = { ...last, toFrames: piece.toFrames, fadeOut: piece.fadeOut };
    else out.push(piece);
  }
  return out;
}

/** First frame at which a piece's sound could be heard, and the first after it. */
export function reachOf(
  { track, lengthOf }: HandTrack,
  { laneId, slipFrames }: Pick<RibbonPiece, 'laneId' | 'slipFrames'>,
): readonly [number, number] {
  const lane = lanesOf(track).find((l) => l.id === laneId);
  if (!lane) return [0, 0];
  const begin = lane.startFrames + slipFrames;
  return [begin, begin + lengthOf(lane)];
}

/** A ribbon as clips: pieces that meet cross over around their edge, by as much as both have sound for. */
export function clipsOf(hand: HandTrack, pieces: readonly RibbonPiece[]): readonly Clip[] {
  const told = pieces.map((piece, i): ToldClip => {
    const [before, behind] = [pieces[i - 1], pieces[i + 1]];
    const into = meets(before, piece) ? crossing(hand, before as RibbonPiece, piece) : null;
    const out = meets(piece, behind) ? crossing(hand, piece, behind as RibbonPiece) : null;
    const [begin, end] = reachOf(hand, piece);
    return {
      ...wholeClip(piece.laneId)[0],
      fromFrames: Math.max(begin, piece.fromFrames - (into?.before ?? 0)),
      toFrames: Math.min(end, piece.toFrames + (out?.behind ?? 0)),
      slipFrames: piece.slipFrames,
      gainDb: piece.gainDb,
      off: piece.off,
      ...fadesOf(piece, into, out),
    };
  });
  return keptClips(hand, told);
}

/** How far a crossing reaches before and behind its edge. */
interface Crossing {
  readonly before: number;
  readonly behind: number;
  readonly shape: Fade['shape'];
}

function crossing(hand: HandTrack, one: RibbonPiece, next: RibbonPiece): Crossing {
  const edge = one.toFrames;
  const wish = Math.min(
    one.fadeOut.frames,
    next.fadeIn.frames,
    edge - one.fromFrames,
    next.toFrames - next.fromFrames,
  );
  return {
    before: Math.max(0, Math.min(Math.floor(wish / 2), edge - reachOf(hand, next)[0])),
    behind: Math.max(0, Math.min(Math.ceil(wish / 2), reachOf(hand, one)[1] - edge)),
    shape: next.fadeIn.shape,
  };
}

function fadesOf(
  piece: RibbonPiece,
  into: Crossing | null,
  out: Crossing | null,
): Pick<Clip, 'fadeInFrames' | 'fadeInShape' | 'fadeOutFrames' | 'fadeOutShape'> {
  const length = piece.toFrames - piece.fromFrames + (into?.before ?? 0) + (out?.behind ?? 0);
  const fadeInFrames = Math.min(length, into ? into.before + into.behind : piece.fadeIn.frames);
  return {
    fadeInFrames,
    fadeInShape: into?.shape ?? piece.fadeIn.shape,
    fadeOutFrames: Math.min(length - fadeInFrames, out ? out.before + out.behind : piece.fadeOut.frames),
    fadeOutShape: out?.shape ?? piece.fadeOut.shape,
  };
}
