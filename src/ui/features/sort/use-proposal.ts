import { useCallback, useMemo, useState } from 'react';
import { tracksInOrder } from '@/core/session';
import { changesSomething, type SortProposal, type SortRow } from '@/core/style';
import { namesStateOf, proposalOf, proposalWith, useSession, useSessionStore } from '@/ui/client';
import { acceptEdits, heardRows } from './accept-edits';
import { type TickedRows, tickedRows } from './ticked-rows';

/** What the house style proposes for the session, and what a person decides of it. */
export interface ProposalInHand extends TickedRows {
  readonly proposal: SortProposal;
  readonly names: ReturnType<typeof namesStateOf>;
  /** How many are to check, and how many no rule met. */
  readonly doubtful: number;
  readonly unmatched: number;
  /** Rows whose names say nothing, as they were heard. */
  readonly heard: readonly SortRow[];
  /** Whether what was set by hand is proposed over, and for which rows. */
  readonly overHand: boolean;
  readonly overwritten: readonly SortRow[];
  readonly tick: (id: string, on: boolean) => void;
  readonly tickAll: (on: boolean) => void;
  readonly proposeOverHand: (on: boolean) => void;
  readonly canApply: boolean;
  readonly apply: () => void;
  readonly accept: (trackId: string | null) => void;
  readonly acceptHeard: () => void;
}

/** The proposal for the session at hand. */
export function useProposal(): ProposalInHand {
  const store = useSessionStore();
  const view = useSession((s) => s.view);
  const { session, style } = view;
  const [chosen, setChosen] = useState<ReadonlyMap<string, boolean>>(new Map());
  const [overHand, setOverHand] = useState(false);
  const proposal = useMemo(
    () => (overHand ? proposalWith(view, view.style, true) : proposalOf(view)),
    [view, overHand],
  );
  const rows = useMemo(
    () => tickedRows(session, style, proposal, chosen),
    [session, style, proposal, chosen],
  );
  const heard = useMemo(() => heardRows(session, proposal), [session, proposal]);
  const tick = useCallback((id: string, on: boolean) => setChosen((now) => new Map(now).set(id, on)), []);
  const isByHand = new Set(
    tracksInOrder(session)
      .filter((t) => t.byHand.includes('family'))
      .map((t) => t.id),
  );
  const count = (group: SortRow['group']): number =>
    proposal.rows.filter((r) => r.group === group && !isByHand.has(r.trackId)).length;
  const names = namesStateOf(view);
  // What is not read yet is not applied.
  const canApply = rows.edits.length > 0 && names === 'read';
  const commit = store.getState().commit;
  return {
    ...rows,
    proposal,
    names,
    doubtful: count('doubtful'),
    unmatched: count('unmatched'),
    heard,
    overHand,
    overwritten: proposal.rows.filter((r) => r.overwrites.length > 0 && changesSomething(r)),
    tick,
    tickAll: (on) => setChosen(new Map(rows.open.map((r) => [r.trackId, on]))),
    proposeOverHand: (on) => {
      setOverHand(on);
      setChosen(new Map());
    },
    canApply,
    apply: () => {
      if (!canApply) return;
      const { length } = rows.ticked;
      void commit(
        length > 0 ? `Apply house style to ${length}` : 'Apply house style to the sums',
        rows.edits,
      );
      setChosen(new Map());
      setOverHand(false);
    },
    accept: (trackId) => {
      const found = proposal.rows.find((r) => r.trackId === trackId);
      if (found) void commit(`Accept ${found.name}`, acceptEdits(session, style, proposal, [found]));
    },
    acceptHeard: () => {
      if (heard.length > 0)
        void commit(`Accept ${heard.length} as heard`, acceptEdits(session, style, proposal, heard));
    },
  };
}
