import type { Change, SessionState } from '@/core/session';
import {
  changesSomething,
  type HouseStyle,
  proposalEdits,
  type SortProposal,
  type SortRow,
} from '@/core/style';

/** What of a proposal is open, and what applying it would do. */
export interface TickedRows {
  /** Rows that something is proposed for. */
  readonly open: readonly SortRow[];
  readonly ticked: readonly SortRow[];
  /** Whether an open row is ticked; null = there is nothing to tick. */
  readonly tickOf: (trackId: string) => boolean | null;
  /** What applying the ticked rows does; empty = nothing, and nothing is offered. */
  readonly edits: readonly Change[];
}

/**
 * The rows as ticked: certain ones, unless a person chose (`chosen`). A row's place is proposed against all rows, also
 * those that wait for a decision: where nothing would move before that, its row is not open.
 */
export function tickedRows(
  session: SessionState,
  style: HouseStyle,
  proposal: SortProposal,
  chosen: ReadonlyMap<string, boolean>,
): TickedRows {
  const changing = proposal.rows.filter(changesSomething);
  const certain = new Set(changing.filter((r) => r.group === 'certain').map((r) => r.trackId));
  const isTicked = (id: string): boolean => chosen.get(id) ?? certain.has(id);
  const ticked = changing.filter((r) => isTicked(r.trackId));
  const edits = proposalEdits(session, style, proposal, new Set(ticked.map((r) => r.trackId)));
  const open = edits.length > 0 ? changing : changing.filter((r) => !isTicked(r.trackId));
  const openIds = new Set(open.map((r) => r.trackId));
  return {
    open,
    ticked: edits.length > 0 ? ticked : [],
    tickOf: (id) => (openIds.has(id) ? isTicked(id) : null),
    edits,
  };
}
