import { useEffect, useState } from 'react';
import type { PlayedHits, SessionView } from '@/contracts';
import { soundingLanes } from '@/core/arrange';
import { isEntire, soundTracks, type Track } from '@/core/session';
import { api } from './api';
import { useSession } from './session-store';

const CUTS = new WeakMap<Track, string>();

/** What of a track sounds, as a text; made once a track. */
function cutsOf(track: Track): string {
  const known = CUTS.get(track) ?? JSON.stringify([track.clips, soundingLanes(track)]);
  CUTS.set(track, known);
  return known;
}

/** What the hits depend on: which tracks were listened to, when they begin, what they are. */
const dependsOn = ({ session, recordings }: SessionView): string => {
  const listened = new Set(recordings.flatMap((r) => (r.listened ? [r.id] : [])));
  return JSON.stringify(
    soundTracks(session)
      .filter((t) => soundingLanes(t).every((l) => listened.has(l.recordingId)))
      .map((t) => [t.id, t.startFrames, t.family, t.part, ...(isEntire(t) ? [] : [cutsOf(t)])]),
  );
};

/** What each track strikes, by track id; empty until it is known. */
export function useHits(): ReadonlyMap<string, PlayedHits> {
  const id = useSession((s) => s.view.id);
  const key = useSession((s) => dependsOn(s.view));
  const [hits, setHits] = useState<ReadonlyMap<string, PlayedHits>>(new Map());
  useEffect(() => {
    let wanted = true;
    // Without them the stage works as well: a failure is not worth a message, and the next change asks again.
    void api<PlayedHits[]>(`/api/sessions/${id}/hits`).then(
      (list) => {
        if (wanted) setHits(new Map(list.map((h) => [h.trackId, h])));
      },
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [id, key]);
  return hits;
}
