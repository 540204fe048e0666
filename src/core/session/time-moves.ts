import type { Change } from './moves';
import { isTrack, type SessionState, type Track } from './state';
import { tracksInOrder, tracksUnder } from './views';

/** What lies elsewhere than it came: a track, or a piece of it whose sound was slipped. */
export interface MovedPart {
  readonly trackId: string;
  readonly name: string;
  /** Null = the track as a whole, with all its takes. */
  readonly clipId: string | null;
  /** Later than it came; a track comes with its first frame at the common zero. */
  readonly frames: number;
  /** Where it came, or begins, in the song. */
  readonly fromFrames: number;
}

/** Tracks that can be moved in time: these, and those in these folders, or all (null). Notes tied to bars lie where their bars lie. */
export const movableTracks = (session: SessionState, ids: Iterable<string> | null): Track[] =>
  (ids === null ? tracksInOrder(session) : tracksUnder(session, ids)).filter((t) => t.tiedTo !== 'bars');

/** Moves that let tracks begin so many frames later (below 0: earlier), with their takes, pieces and versions. */
export const moveInTime = (tracks: readonly Track[], frames: number): Change[] =>
  frames === 0 ? [] : tracks.map((t) => beginningAt(t, t.startFrames + frames));

const beginningAt = (track: Track, startFrames: number): Change => ({
  kind: 'track.change',
  id: track.id,
  fields: { startFrames, byHand: [...new Set([...track.byHand, 'startFrames'])] },
});

/** What does not lie where it came, from top to bottom. */
export function movedParts(session: SessionState): MovedPart[] {
  return movableTracks(session, null).flatMap(({ id, name, startFrames, clips }): MovedPart[] => [
    ...(startFrames === 0 ? [] : [{ trackId: id, name, clipId: null, frames: startFrames, fromFrames: 0 }]),
    ...clips
      .filter((c) => c.slipFrames !== 0)
      .map((c) => ({
        trackId: id,
        name,
        clipId: c.id,
        frames: c.slipFrames,
        fromFrames: c.fromFrames ?? startFrames,
      })),
  ]);
}

/** Moves that lay parts back where they came; what is gone since is passed by. Of a track that goes back as a whole pieces stay slipped unless they are named. */
export function takenBack(session: SessionState, parts: readonly MovedPart[]): Change[] {
  const byTrack = new Map<string, MovedPart[]>();
  for (const part of parts) byTrack.set(part.trackId, [...(byTrack.get(part.trackId) ?? []), part]);
  return [...byTrack].flatMap(([id, own]): Change[] => {
    const track = session.nodes[id];
    if (!isTrack(track)) return [];
    const slipped = new Set(own.map((p) => p.clipId));
    const clips = track.clips.map((c) => (slipped.has(c.id) ? { ...c, slipFrames: 0 } : c));
    return [
      ...(clips.some((c, i) => c !== track.clips[i]) ? [{ kind: 'track.cut' as const, id, clips }] : []),
      ...(slipped.has(null) && track.startFrames !== 0 ? [beginningAt(track, 0)] : []),
    ];
  });
}
