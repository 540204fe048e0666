import { useMemo, useState } from 'react';
import type { SortProposal } from '@/core/style';
import { useSession, useWorkbench } from '@/ui/client';
import { busText } from './cell-edits';
import { lensTracks, type Shown } from './lens-tracks';
import { type SheetRow, sheetRows, type SortedBy, sortedRows } from './rows';

const NOTHING_FOLDED: ReadonlySet<string> = new Set();

/** What of the session the sheet shows, in which order. */
export function useSheetRows(proposal: SortProposal): {
  readonly rows: readonly SheetRow[];
  readonly shown: Shown;
  /** Null = the order of the session. */
  readonly sorted: SortedBy | null;
  readonly setSorted: (by: SortedBy | null) => void;
} {
  const view = useSession((s) => s.view);
  const folded = useWorkbench((w) => w.folded);
  const lenses = useWorkbench((w) => w.lenses);
  const filter = useWorkbench((w) => w.filter);
  const [sorted, setSorted] = useState<SortedBy | null>(null);
  const { session, recordings } = view;
  const shown = useMemo(() => lensTracks(view, lenses, filter, proposal), [view, lenses, filter, proposal]);
  const rows = useMemo(() => {
    const all = sheetRows(session, proposal, {
      folded: sorted ? NOTHING_FOLDED : folded,
      lens: shown.trackIds,
      sumsOnly: shown.sumsOnly,
    });
    if (!sorted) return all;
    const peaks = new Map(recordings.map((r) => [r.id, r.facts?.peakDbfs ?? null]));
    return sortedRows(all, sorted, {
      peakOf: (t) => peaks.get(t.recordingId) ?? null,
      busNameOf: (busId) => busText({ busId }, session),
    });
  }, [session, proposal, folded, shown, sorted, recordings]);
  return { rows, shown, sorted, setSorted };
}
