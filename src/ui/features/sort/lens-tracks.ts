import type { SessionView } from '@/contracts';
import { tracksInOrder, type Track } from '@/core/session';
import type { SortProposal } from '@/core/style';
import { lensesOf, SUMS_LENS } from '@/ui/client';
import { kindText, shownKind } from './rows';

/** What of the sheet is shown. */
export interface Shown {
  /** Track ids; null = all. Always from the whole session. */
  readonly trackIds: ReadonlySet<string> | null;
  /** Only folders that are summed, without what is in them. */
  readonly sumsOnly: boolean;
  /** Tracks a lens leaves out though others of their family are shown: names that lack the word it looks for. */
  readonly missed: readonly Track[];
}

const plain = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** What several lenses together, and a free text, let through. */
export function lensTracks(
  view: SessionView,
  lenses: ReadonlySet<string>,
  filter: string,
  proposal: Pick<SortProposal, 'rows'> = { rows: [] },
): Shown {
  const words = plain(filter)
    .split(/\s+/)
    .filter((w) => w !== '');
  const sumsOnly = lenses.has(SUMS_LENS) && lenses.size === 1 && words.length === 0;
  if ((lenses.size === 0 && words.length === 0) || sumsOnly) return { trackIds: null, sumsOnly, missed: [] };
  const known = lensesOf(view).filter((l) => lenses.has(l.key) && l.key !== SUMS_LENS);
  const tracks = tracksInOrder(view.session);
  const through = lenses.size === 0 ? tracks : tracks.filter((t) => known.some((l) => l.trackIds.has(t.id)));
  const proposed = new Map(proposal.rows.map((r) => [r.trackId, r]));
  // What the sheet shows of a track: what is proposed for it as well.
  const textOf = (t: Track): string => {
    const row = proposed.get(t.id) ?? null;
    return plain(`${t.name} ${row?.name ?? ''} ${t.receivedName} ${kindText(shownKind(t, row))}`);
  };
  const shown =
    words.length === 0 ? through : through.filter((t) => words.every((w) => textOf(t).includes(w)));
  const families = new Set(shown.map((t) => t.family));
  const isByKind = words.length === 0 && !lenses.has('doubts');
  return {
    trackIds: new Set(shown.map((t) => t.id)),
    sumsOnly: false,
    missed: isByKind
      ? tracks.filter((t) => t.family !== 'unknown' && families.has(t.family) && !shown.includes(t))
      : [],
  };
}
