import { type RibbonPiece, ribbonOf } from '@/core/comp';
import { type Lane, laneTracks, lanesOf, type SessionState, soundTracks, type Track } from '@/core/session';

/** A row of the view Takes: a packed track, or one of its takes. */
export interface CompRow {
  /** Id of the row. */
  readonly id: string;
  readonly track: Track;
  /** The take; null = the track as it is put together. */
  readonly lane: Lane | null;
  /** What is drawn: the track, or the take from end to end. */
  readonly drawn: Track;
  readonly isUnfolded: boolean;
}

/** Tracks that have takes, each followed by these where it is unfolded; what was put aside comes last. */
export function compRows(session: SessionState, unfolded: ReadonlySet<string>): CompRow[] {
  return soundTracks(session)
    .filter((t) => t.otherLanes.length > 0)
    .flatMap((track): CompRow[] => {
      const isUnfolded = unfolded.has(track.id);
      const head: CompRow = { id: track.id, track, lane: null, drawn: track, isUnfolded };
      if (!isUnfolded) return [head];
      const lanes = new Map(lanesOf(track).map((l) => [l.id, l]));
      const takes = laneTracks(track).map((drawn): CompRow => ({
        id: drawn.id,
        track,
        lane: lanes.get(drawn.laneId) as Lane,
        drawn,
        isUnfolded,
      }));
      return [head, ...[...takes].sort((a, b) => Number(a.lane?.takeAside) - Number(b.lane?.takeAside))];
    });
}

/** What sounds of a track, in order; silenced pieces are none. */
export const soundingPieces = (track: Track, lengths: ReadonlyMap<string, number>): RibbonPiece[] =>
  ribbonOf({ track, lengthOf: (l) => lengths.get(l.recordingId) ?? 0 }).filter((p) => !p.off);

/** The number of the take that sounds at a frame; null = none. */
export function soundingNumber(track: Track, pieces: readonly RibbonPiece[], frame: number): number | null {
  const piece = pieces.findLast((p) => frame >= p.fromFrames && frame < p.toFrames);
  return lanesOf(track).find((l) => l.id === piece?.laneId)?.takeNumber ?? null;
}

/** What a take is called. */
export const takeTitle = ({ takeName, receivedName }: Lane): string => takeName ?? receivedName;
