import type { SessionState } from '@/core/session';
import { DEFAULT_STYLE, proposeSort, type SortProposal } from '@/core/style';

const known = new WeakMap<SessionState, SortProposal>();

/** What the house style proposes for a session; worked out once for each state of it, however many parts of the page ask. */
export function proposalOf(session: SessionState): SortProposal {
  const found = known.get(session) ?? proposeSort(session, DEFAULT_STYLE);
  known.set(session, found);
  return found;
}
