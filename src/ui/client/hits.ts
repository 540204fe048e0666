import { useEffect, useState } from 'react';
import type { PlayedHits, SessionView } from '@/contracts';
import { soundingLanes } from '@/core/arrange';
import { isEntire, soundTracks, type Track } from '@/core/session';
import { api } from './api';
import { useSession, useSessionStore } from './session-store';

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

type Hits = ReadonlyMap<string, PlayedHits>;

/** The last that was asked for: until what it depends on is another, it holds. */
let last: { readonly key: string; readonly hits: Promise<Hits> } | null = null;

/** What each track strikes, by track id, asked for where it is needed. Rejects as the request does; then the next asks again. */
export function loadHits(view: SessionView): Promise<Hits> {
  const key = `${view.id} ${dependsOn(view)}`;
  if (last?.key === key) return last.hits;
  const hits = api<PlayedHits[]>(`/api/sessions/${view.id}/hits`).then(
    (list) => new Map(list.map((h) => [h.trackId, h])),
  );
  const asked = { key, hits };
  last = asked;
  hits.catch(() => {
    if (last === asked) last = null;
  });
  return hits;
}

/** The same as it stands; empty until it is known. */
export function useHits(): Hits {
  const store = useSessionStore();
  const key = useSession((s) => `${s.view.id} ${dependsOn(s.view)}`);
  const [hits, setHits] = useState<Hits>(new Map());
  useEffect(() => {
    let wanted = true;
    // Without them the stage works as well: a failure is not worth a message, and the next change asks again.
    void loadHits(store.getState().view).then(
      (found) => {
        if (wanted) setHits(found);
      },
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [store, key]);
  return hits;
}
