import type { SoundSketch } from '../analysis';
import type { Family } from '../naming';

/** What was heard of a recording, where it lies in the song. */
export interface HeardPiece {
  readonly sketch: SoundSketch;
  /** Twelve pitch classes, see `HarmonyAnalysis`; empty = not known. */
  readonly chroma: Float32Array;
  /** Time of the song of the first frame, s. */
  readonly atSeconds: number;
  /** Faster or slower than it was recorded; 1 where it is left out. */
  readonly speed?: number;
  /** Stretch of the song in which it sounds, s; all of it where it is left out. */
  readonly fromSeconds?: number;
  readonly toSeconds?: number;
}

/** A track as the sections are found from it. */
export interface SectionTrack {
  readonly family: Family;
  readonly part: string | null;
  readonly pieces: readonly HeardPiece[];
}

/** The tracks a song's sections are found from: a mix and a click say nothing of their own where there is anything else. */
export function playedTracks<T extends Pick<SectionTrack, 'family'>>(tracks: readonly T[]): readonly T[] {
  const played = tracks.filter((t) => t.family !== 'reference' && t.family !== 'click');
  return played.length > 0 ? played : tracks.filter((t) => t.family !== 'click');
}
