import { type FadeShape, type Lane, lanesOf, type Track } from '../session';

/** How the sound of a piece comes in, or goes out. */
export interface Fade {
  readonly frames: number;
  readonly shape: FadeShape;
}

/** A stretch of a track's time in which one sound is heard. `S` says where that sound lies. Frames are those of the session. */
export interface Piece<S> {
  readonly sound: S;
  readonly laneId: string;
  readonly clipId: string;
  /** First frame of it in the session. */
  readonly fromFrames: number;
  /** First frame after it. */
  readonly toFrames: number;
  /** Frame of the sound that is heard at `fromFrames`. */
  readonly soundFrames: number;
  /** Linear; negative where polarity is turned over. */
  readonly gain: number;
  /** Edges of the clip, which its fades keep to; the sound may end before them. */
  readonly clipFromFrames: number;
  readonly clipToFrames: number;
  readonly fadeIn: Fade;
  readonly fadeOut: Fade;
  /** The one channel that stands for all; null = all as they are. */
  readonly fromChannel: number | null;
}

/** A sound at the session's rate. */
export interface LaneSound<S> {
  readonly sound: S;
  readonly lengthFrames: number;
}

/** What sounds of a track, in order of time; a lane whose sound is not there (yet) is silent. All that plays, draws, counts or hands over a track reads it here. */
export function piecesOf<S>(
  track: Track,
  soundOf: (lane: Lane) => LaneSound<S> | null | undefined,
): Piece<S>[] {
  const lanes = new Map(lanesOf(track).map((lane) => [lane.id, lane]));
  return track.clips.flatMap((clip): Piece<S>[] => {
    const lane = lanes.get(clip.laneId);
    const found = lane && !clip.off ? soundOf(lane) : null;
    if (!lane || !found) return [];
    const begin = lane.startFrames + clip.slipFrames;
    const end = begin + found.lengthFrames;
    const [clipFrom, clipTo] = [clip.fromFrames ?? begin, clip.toFrames ?? end];
    const [from, to] = [Math.max(begin, clipFrom), Math.min(end, clipTo)];
    if (to <= from) return [];
    return [
      {
        sound: found.sound,
        laneId: lane.id,
        clipId: clip.id,
        fromFrames: from,
        toFrames: to,
        soundFrames: from - begin,
        gain: (lane.inverted ? -1 : 1) * (clip.gainDb === 0 ? 1 : 10 ** (clip.gainDb / 20)),
        clipFromFrames: clipFrom,
        clipToFrames: clipTo,
        fadeIn: { frames: clip.fadeInFrames, shape: clip.fadeInShape },
        fadeOut: { frames: clip.fadeOutFrames, shape: clip.fadeOutShape },
        fromChannel: lane.monoFrom === null ? null : lane.monoFrom === 'left' ? 0 : 1,
      },
    ];
  });
}

/** Frame of the session at which a frame of a piece's sound is heard; null = it is not. */
export function soundsAt(
  piece: Pick<Piece<unknown>, 'fromFrames' | 'toFrames' | 'soundFrames'>,
  soundFrame: number,
): number | null {
  const frame = piece.fromFrames + soundFrame - piece.soundFrames;
  return frame >= piece.fromFrames && frame < piece.toFrames ? frame : null;
}

/** First frame after all pieces of a list; 0 without any. */
export const endOf = (pieces: readonly Pick<Piece<unknown>, 'toFrames'>[]): number =>
  pieces.reduce((end, p) => Math.max(end, p.toFrames), 0);

/** Channels of a track: of sounds of one channel and of two, the more. */
export const channelsOf = <S>(pieces: readonly Piece<S>[], channelsOfSound: (sound: S) => number): number =>
  pieces.reduce((most, p) => Math.max(most, p.fromChannel === null ? channelsOfSound(p.sound) : 1), 1);

/** Lanes of a track that some clip of it lets sound; the one that stands for it where none does. */
export function soundingLanes(track: Track): readonly Lane[] {
  const ids = new Set(track.clips.filter((c) => !c.off).map((c) => c.laneId));
  const lanes = lanesOf(track);
  const found = lanes.filter((l) => ids.has(l.id));
  return found.length > 0 ? found : lanes.slice(0, 1);
}

/** First frame at which something of a track can sound; null = nothing does. */
export function beginOf(track: Track): number | null {
  const lanes = new Map(lanesOf(track).map((lane) => [lane.id, lane]));
  const begins = track.clips.flatMap((clip) => {
    const lane = lanes.get(clip.laneId);
    if (!lane || clip.off) return [];
    const begin = lane.startFrames + clip.slipFrames;
    return [Math.max(begin, clip.fromFrames ?? begin)];
  });
  return begins.length > 0 ? Math.min(...begins) : null;
}

/** Pieces that lie `by` frames later. */
export const movedPieces = <S>(pieces: readonly Piece<S>[], by: number): Piece<S>[] =>
  pieces.map((p) => ({
    ...p,
    fromFrames: p.fromFrames + by,
    toFrames: p.toFrames + by,
    clipFromFrames: p.clipFromFrames + by,
    clipToFrames: p.clipToFrames + by,
  }));
