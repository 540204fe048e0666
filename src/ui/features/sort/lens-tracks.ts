import { tracksInOrder, type SessionState } from '@/core/session';
import { DEFAULT_STYLE } from '@/core/style';
import { proposalOf } from '@/ui/client';

/** Track ids a lens lets through, always from the whole session; null = everything. */
export function lensTracks(session: SessionState, lens: string): ReadonlySet<string> | null {
  if (lens === 'all') return null;
  const tracks = tracksInOrder(session);
  if (lens === 'doubts') return new Set(proposalOf(session).rows.filter((r) => r.group !== 'certain').map((r) => r.trackId));
  const rule = DEFAULT_STYLE.folders.find((f) => f.key === lens);
  return rule ? new Set(tracks.filter((t) => rule.families.includes(t.family)).map((t) => t.id)) : null;
}
