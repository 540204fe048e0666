'use client';
import { useMemo } from 'react';
import { soundTracks, type Track } from '@/core/session';
import { proposalOf, useNamesRead, useSession } from '@/ui/client';
import { knownTracks } from './known-tracks';

/** All tracks that sound as they are known so far, sorted or not; again when more names are read. */
export function useKnownTracks(): readonly Track[] {
  const view = useSession((s) => s.view);
  useNamesRead();
  const { session } = view;
  // Where all are sorted nothing has to be proposed, which takes its time.
  const proposal = soundTracks(session).some((t) => t.family === 'unknown') ? proposalOf(view) : null;
  return useMemo(
    () => (proposal ? knownTracks(session, proposal).map((k) => k.track) : soundTracks(session)),
    [session, proposal],
  );
}
