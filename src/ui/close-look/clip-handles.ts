import type { SessionView } from '@/contracts';
import { type Change, groupsOf, isTrack, type Lane, soundTracks, type Track } from '@/core/session';
import {
  areCutAlike,
  clipAt,
  fadeAt,
  type HandResult,
  type HandTrack,
  pullEdge,
  SAME_EDGE_SECONDS,
  toldClips,
} from '@/core/tidy';

/** What can be taken hold of in the picture of a track: an edge of a piece, or where a fade ends. */
export interface ClipHandle {
  readonly kind: 'edge' | 'fade-in' | 'fade-out';
  /** Frame of the session. */
  readonly at: number;
  /** A frame inside of its piece. */
  readonly within: number;
}

/** Handles of a track between two frames; edges at which two pieces meet are one. */
export function handlesOf(hand: HandTrack, from: number, to: number): ClipHandle[] {
  const seen = new Set<number>();
  return toldClips(hand).flatMap((c) => {
    if (c.toFrames < from || c.fromFrames > to) return [];
    const within = Math.floor((c.fromFrames + c.toFrames) / 2);
    const edges = [c.fromFrames, c.toFrames].flatMap((at): ClipHandle[] => {
      if (seen.has(at)) return [];
      seen.add(at);
      return [{ kind: 'edge', at, within }];
    });
    const fades: ClipHandle[] = [
      { kind: 'fade-in', at: c.fromFrames + c.fadeInFrames, within },
      { kind: 'fade-out', at: c.toFrames - c.fadeOutFrames, within },
    ];
    return [...edges, ...fades].filter((h) => h.at >= from && h.at <= to);
  });
}

/** Where a handle would stand that is moved to a frame: a fade stays inside of its piece. */
export function heldTo(hand: HandTrack, handle: ClipHandle, to: number): number {
  const clip = clipAt(toldClips(hand), handle.within);
  if (handle.kind === 'edge' || !clip) return Math.round(to);
  const [least, most] =
    handle.kind === 'fade-in'
      ? [clip.fromFrames, clip.toFrames - clip.fadeOutFrames]
      : [clip.fromFrames + clip.fadeInFrames, clip.toFrames];
  return Math.round(Math.max(least, Math.min(most, to)));
}

function moved(hand: HandTrack, handle: ClipHandle, to: number, tolerance: number): HandResult {
  if (handle.kind === 'edge') return pullEdge(hand, handle.at, { to, within: tolerance });
  const clip = clipAt(toldClips(hand), handle.within);
  if (!clip) return null;
  const place = heldTo(hand, handle, to);
  return fadeAt(
    hand,
    handle.within,
    handle.kind === 'fade-in' ? { inFrames: place - clip.fromFrames } : { outFrames: clip.toFrames - place },
  );
}

/** Changes that move a handle of a track, and with it what its groups, or the microphones that are cut with it, have at the same place; `alone` = only the track. */
export function handleChanges(
  { session, recordings }: Pick<SessionView, 'session' | 'recordings'>,
  {
    trackId,
    handle,
    to,
    alone,
  }: {
    readonly trackId: string;
    readonly handle: ClipHandle;
    readonly to: number;
    readonly alone: boolean;
  },
): Change[] {
  const lengths = new Map(recordings.map((r) => [r.id, r.sessionFrames ?? 0]));
  const lengthOf = ({ recordingId }: Lane): number => lengths.get(recordingId) ?? 0;
  const tolerance = Math.round(SAME_EDGE_SECONDS * (session.sampleRateHz ?? 48_000));
  const own = session.nodes[trackId];
  if (!isTrack(own)) return [];
  const groups = groupsOf(session, trackId).filter((g) => g.on);
  const others = soundTracks(session).filter(
    (t) =>
      !alone &&
      t.id !== trackId &&
      (areCutAlike(own, t) || groups.some((g) => g.trackIds.includes(t.id))) &&
      hasAt({ track: t, lengthOf }, handle, tolerance),
  );
  const tracks = new Map([own, ...others].map((t): [string, Track] => [t.id, t]));
  return [...tracks.values()].flatMap((track): Change[] => {
    const clips = moved({ track, lengthOf }, handle, to, tolerance);
    return clips ? [{ kind: 'track.cut', id: track.id, clips }] : [];
  });
}

/** Whether a track has such a handle at the same place. */
const hasAt = (hand: HandTrack, handle: ClipHandle, tolerance: number): boolean =>
  handlesOf(hand, handle.at - tolerance, handle.at + tolerance).some((h) => h.kind === handle.kind);
