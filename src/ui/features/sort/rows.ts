import { isFolder, isTrack, listRows, type Folder, type SessionState, type Track } from '@/core/session';
import { type HouseStyle, sessionName, type SortProposal, type SortRow } from '@/core/style';
import type { ColumnId } from './sheet-columns';

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
  readonly by: SortColumn;
  readonly down: boolean;
}
export type SortColumn = Exclude<ColumnId, 'wave'>;

const collator = new Intl.Collator('en', { numeric: true });
type TrackRow = Extract<SheetRow, { kind: 'track' }>;

const rowName = (r: TrackRow): string => r.proposal?.name ?? r.track.name;

/** What a column is sorted by: figures with the loudest first, pans from left to right, words by the alphabet. */
function sortKey(by: SortColumn, row: TrackRow, facts: SortFacts): string | number {
  const { track } = row;
  if (by === 'name') return rowName(row);
  if (by === 'kind') return kindText(shownKind(track, row.proposal));
  if (by === 'peak') return -(facts.peakOf(track) ?? -Infinity);
  if (by === 'level') return -track.gainDb;
  if (by === 'pan') return track.pan;
  if (by === 'bus') return track.busId === null ? '' : (facts.busNameOf(track.busId) ?? '');
  return track[by] ?? '';
}

interface SortFacts {
  /** dBFS; null = none. */
  readonly peakOf: (track: Track) => number | null;
  readonly busNameOf: (busId: string) => string | null;
}

/** Tracks alone, without their folders, sorted to be looked at; alike ones by their names. */
export function sortedRows(rows: readonly SheetRow[], { by, down }: SortedBy, facts: SortFacts): SheetRow[] {
  const tracks = rows.flatMap((r) => (r.kind === 'track' ? [{ ...r, depth: 0 }] : []));
  const keys = new Map(tracks.map((r) => [r.id, sortKey(by, r, facts)]));
  const order = [...tracks].sort((a, b) => {
    const [first, second] = [keys.get(a.id) as string | number, keys.get(b.id) as string | number];
    const apart =
      typeof first === 'number' && typeof second === 'number'
        ? Math.sign(first - second) || 0
        : collator.compare(String(first), String(second));
    return apart || collator.compare(rowName(a), rowName(b));
  });
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
