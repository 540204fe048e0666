import { useMemo } from 'react';
import { numberedMap } from '@/core/delivery';
import type { SongMap } from '@/core/time';
import { useSession } from './session-store';

/** The session's map, its bars called as in the package; null without one. */
export function useSongMap(): SongMap | null {
  const { session, style } = useSession((s) => s.view);
  return useMemo(() => numberedMap(session, style), [session, style]);
}
