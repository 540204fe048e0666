'use client';
import { useEffect, useRef } from 'react';
import { asPlayedBack, playbackWarp } from '@/core/conform';
import { isTrack, type Lane, laneTracks, type SessionState, tracksInOrder } from '@/core/session';
import { type ClickParts, clickStrokes, createSongMap } from '@/core/time';
import { shared, songSeconds, useSession } from '@/ui/client';
import {
  clickBars,
  clickParts,
  clickSound,
  type NamedSound,
  type PlayerTrack,
  sessionTrack,
  usePlayer,
  useTakesInHand,
} from '@/ui/listening';

/** The page comes first, then what listening needs. */
const WARM_MS = 400;

/** Keeps the player in step with the session: its tracks, and the click of its map. */
export function PlayerBridge() {
  const player = usePlayer();
  const view = useSession((s) => s.view);
  const sound = clickSound.use();
  const parts = Number(clickParts.use()) as ClickParts;
  const countBars = Number(clickBars.use());
  useEffect(() => player.setClickSound(sound, player.state.getState().clickDb), [player, sound]);
  const takesOf = useTakesInHand();
  const { session, recordings, conform } = view;
  const sent = useRef<{
    readonly session: SessionState;
    readonly tracks: readonly object[];
    readonly takesOf: string | null;
  } | null>(null);
  useEffect(() => {
    const byId = new Map(recordings.map((r) => [r.id, r]));
    const rate = session.sampleRateHz ?? 48_000;
    const warp = playbackWarp(session);
    const conformed = new Map((conform?.ready ?? []).map((c) => [c.laneId, c]));
    const shown = asPlayedBack(session);
    const soundOf = (lane: Lane): NamedSound | null => {
      const r = byId.get(lane.recordingId);
      if (r?.state !== 'ready' || r.sessionFrames === null || r.channels === null) return null;
      const { channels } = r;
      if (!warp) return { sound: `recordings/${r.id}`, channels, lengthFrames: r.sessionFrames };
      // What is not conformed yet stays silent: out of time it would only mislead.
      const made = conformed.get(lane.id);
      return made ? { sound: `conformed/${made.key}`, channels, lengthFrames: made.lengthFrames } : null;
    };
    const packed = takesOf === null ? undefined : shown.nodes[takesOf];
    const tracks = [
      ...tracksInOrder(shown).flatMap((t) => sessionTrack(session, t, soundOf) ?? []),
      // Ready beside it, so that going from one to the next is only a matter of gains.
      ...(isTrack(packed) ? laneTracks(packed) : []).flatMap((t): PlayerTrack[] => {
        const take = sessionTrack(session, t, soundOf);
        return take && packed ? [{ ...take, takeOf: packed.id }] : [];
      }),
    ];
    // Most of what happens while a delivery comes in is nothing to the player.
    const same = shared(sent.current?.tracks, tracks);
    const isSame = sent.current?.session === session && sent.current.takesOf === takesOf;
    if (isSame && sent.current?.tracks === same) return;
    sent.current = { session, tracks: same, takesOf };
    player.setTracks(same, rate, warp && { toPlayback: warp.toConformed, toPlayed: warp.toPlayed });
  }, [player, session, recordings, conform, takesOf]);
  useEffect(() => {
    const timer = setTimeout(() => player.warm(), WARM_MS);
    return () => clearTimeout(timer);
  }, [player]);
  useEffect(() => {
    if (!session.map) {
      player.setClicks([], []);
      player.setCountIn(null);
      return;
    }
    const map = createSongMap(session.map.points, session.map.meters);
    const strokes = clickStrokes(map, parts, 1 - countBars, songSeconds(session, recordings));
    player.setClicks(
      strokes.map((c) => c.seconds),
      strokes.map((c) => c.stroke),
    );
    // From the beginning of a bar, so many whole ones before that of the place.
    player.setCountIn(
      countBars === 0
        ? null
        : (at) =>
            at -
            map.tempo.toSeconds(
              map.meters.barToQuarters(map.meters.toBar(map.tempo.toQuarters(at)).bar - countBars),
            ),
    );
  }, [player, session, recordings, parts, countBars]);
  return null;
}
