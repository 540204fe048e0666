import { isFolder, isTrack, listRows, type Folder, type SessionState, type Track } from '@/core/session';
import { type HouseStyle, sessionName, type SortProposal, type SortRow } from '@/core/style';

/** A row of the sheet, ready to draw. */
export type SheetRow =
  | {
      readonly kind: 'folder';
      readonly id: string;
      readonly folder: Folder;
      readonly depth: number;
      readonly parentId: string;
      readonly index: number;
      readonly count: number;
      readonly folded: boolean;
      readonly busName: string | null;
    }
  | {
      readonly kind: 'track';
      readonly id: string;
      readonly track: Track;
      readonly depth: number;
      readonly parentId: string;
      readonly index: number;
      readonly proposal: SortRow | null;
    };

/** All tracks below a node. */
export function tracksBelow(session: SessionState, id: string): Track[] {
  return (session.children[id] ?? []).flatMap((child) => {
    const node = session.nodes[child];
    return isTrack(node) ? [node] : tracksBelow(session, child);
  });
}

/** Rows of the sheet under a lens; a folder is shown when something in it is. `sumsOnly`: only summed folders, as if folded. */
export function sheetRows(
  session: SessionState,
  proposal: SortProposal,
  view: {
    readonly folded: ReadonlySet<string>;
    readonly lens: ReadonlySet<string> | null;
    readonly sumsOnly?: boolean;
  },
): SheetRow[] {
  const proposals = new Map(proposal.rows.map((r) => [r.trackId, r]));
  return listRows(session, view.folded).flatMap((row): SheetRow[] => {
    const place = { id: row.node.id, depth: row.depth, parentId: row.parentId, index: row.index };
    if (isFolder(row.node)) {
      const below = tracksBelow(session, row.node.id);
      const shown = view.lens ? below.filter((t) => view.lens?.has(t.id)) : below;
      if ((view.lens && shown.length === 0) || (view.sumsOnly && row.node.busId === null)) return [];
      const bus = row.node.busId === null ? null : session.buses[row.node.busId];
      return [
        {
          kind: 'folder',
          ...place,
          folder: row.node,
          count: below.length,
          folded: view.sumsOnly === true || view.folded.has(row.node.id),
          busName: bus?.name ?? null,
        },
      ];
    }
    if (view.sumsOnly || (view.lens && !view.lens.has(row.node.id))) return [];
    const found = proposals.get(row.node.id) ?? null;
    return [
      {
        kind: 'track',
        ...place,
        track: row.node,
        proposal: found,
      },
    ];
  });
}

/** How rows are sorted for looking only. */
export interface SortedBy {
  readonly by: 'name' | 'kind' | 'peak';
  readonly down: boolean;
}

const collator = new Intl.Collator('en', { numeric: true });

/** Tracks alone, without their folders, sorted to be looked at; `peakOf` in dBFS, null = none. */
export function sortedRows(
  rows: readonly SheetRow[],
  { by, down }: SortedBy,
  peakOf: (track: Track) => number | null,
): SheetRow[] {
  const tracks = rows.flatMap((r) => (r.kind === 'track' ? [{ ...r, depth: 0 }] : []));
  const name = (r: (typeof tracks)[number]): string => r.proposal?.name ?? r.track.name;
  const compare = (a: (typeof tracks)[number], b: (typeof tracks)[number]): number => {
    if (by === 'peak') return (peakOf(b.track) ?? -Infinity) - (peakOf(a.track) ?? -Infinity) || 0;
    return by === 'kind'
      ? collator.compare(kindText(shownKind(a.track, a.proposal)), kindText(shownKind(b.track, b.proposal)))
      : collator.compare(name(a), name(b));
  };
  const order = [...tracks].sort((a, b) => compare(a, b) || collator.compare(name(a), name(b)));
  return down ? order.reverse() : order;
}

/** Family and part in plain words. */
export function kindText(t: { readonly family: string; readonly part: string | null }): string {
  const part = t.part === null ? null : t.part.replaceAll('-', ' ');
  const family = t.family.replaceAll('-', ' ');
  return part === null || part === family ? family : `${family} · ${part}`;
}

/** What a track is as the sheet shows it: as it is set, else as it is proposed. */
export const shownKind = (
  track: Pick<Track, 'family' | 'part'>,
  row: Pick<SortRow, 'family' | 'fields'> | null,
): Pick<Track, 'family' | 'part'> =>
  track.family === 'unknown' && row
    ? { family: row.family, part: row.fields.part ?? track.part }
    : { family: track.family, part: track.part };

/** What a family would be called when a person sets it by hand and the name says nothing. */
export const handName = (style: HouseStyle, family: Track['family'], part: string | null): string | null =>
  sessionName(style.names, style.fileWords, {
    family,
    part,
    role: null,
    position: null,
    side: null,
    number: null,
  });
