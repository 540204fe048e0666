'use client';
import { useCallback, useEffect, useState } from 'react';
import type { RecordingView, SessionView } from '@/contracts';
import type { Lane } from '@/core/session';
import { type PlayerTrack, recordingSound, usePlayer, usePlayerState } from '@/ui/listening';

/** Listening to tracks as they might be, one way against another at the same place. */
export interface Trying<Way extends string> {
  /** What is heard; null = the song. */
  readonly heard: Way | null;
  readonly play: (way: Way, tracks: readonly PlayerTrack[]) => void;
  readonly stop: () => void;
}

/** See {@link Trying}; leaving the view goes back to the song. */
export function useTrying<Way extends string>(rateHz: number): Trying<Way> {
  const player = usePlayer();
  const isTrying = usePlayerState((s) => s.trying);
  const [asked, setAsked] = useState<Way | null>(null);
  const stop = useCallback(() => {
    setAsked(null);
    void player.tryOut(null);
  }, [player]);
  useEffect(() => () => void player.tryOut(null), [player]);
  const play = (way: Way, tracks: readonly PlayerTrack[]): void => {
    const end = Math.max(0, ...tracks.flatMap((t) => t.pieces.map((p) => p.toFrames / rateHz)));
    const { positionSeconds } = player.state.getState();
    if (tracks.length === 0) return stop();
    setAsked(way);
    void player.tryOut({
      tracks: [...tracks],
      time: null,
      fromSeconds: positionSeconds < end - 1 ? positionSeconds : 0,
      toSeconds: end,
    });
  };
  return { heard: isTrying ? asked : null, play, stop };
}

/** Sounds of lanes as they were recorded. */
export const recordedSounds = (recordings: SessionView['recordings']) => {
  const byId = new Map<string, RecordingView>(recordings.map((r) => [r.id, r]));
  return ({ recordingId }: Lane) => recordingSound(byId.get(recordingId));
};

/** By how much one way comes down so that all are about as loud as the softest, dB: none is turned up, so that none clips. */
export function trimTo<Way extends string>(loudness: ReadonlyMap<Way, number | null>, way: Way): number {
  const known = [...loudness.values()].filter((l) => l !== null);
  const own = loudness.get(way) ?? null;
  return own === null ? 0 : Math.min(0, Math.min(...known) - own);
}
