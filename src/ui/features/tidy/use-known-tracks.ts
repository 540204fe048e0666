'use client';
import { useMemo } from 'react';
import type { Track } from '@/core/session';
import { proposalOf, useNamesRead, useSession } from '@/ui/client';
import { knownTracks } from './known-tracks';

/** All tracks that sound as they are known so far, sorted or not; again when more names are read. */
export function useKnownTracks(): readonly Track[] {
  const view = useSession((s) => s.view);
  useNamesRead();
  const proposal = proposalOf(view);
  return useMemo(() => knownTracks(view.session, proposal).map((k) => k.track), [view.session, proposal]);
}
