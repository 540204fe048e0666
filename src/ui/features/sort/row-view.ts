import type { MouseEvent } from 'react';
import type { Track } from '@/core/session';
import { changesSomething } from '@/core/style';
import type { SheetRow } from './rows';
import type { ColumnId } from './sheet-columns';

export type TrackRow = Extract<SheetRow, { kind: 'track' }>;
export type FolderRow = Extract<SheetRow, { kind: 'folder' }>;

/** A cell that is edited in its place. */
export interface EditedCell {
  readonly id: string;
  readonly column: ColumnId;
}

/** A track as it would be with what is proposed for it. */
export const shownTrack = ({ track, proposal }: TrackRow): Track =>
  proposal && changesSomething(proposal) ? { ...track, ...proposal.fields } : track;

/** What the picture of a track is drawn in. */
export const pictureColor = (row: TrackRow, unknownColor: string): string =>
  row.track.muted ? 'rgba(128,128,120,0.45)' : (shownTrack(row).color ?? unknownColor);

/** What a row is drawn from. */
export interface RowProps {
  readonly row: SheetRow;
  readonly index: number;
  readonly columns: readonly ColumnId[];
  /** The column the keyboard stands on, if on this row. */
  readonly column: string | null;
  readonly top: number;
  readonly height: number;
  readonly waveWidth: number;
  readonly length: number;
  readonly peakDb: string;
  readonly busName: string;
  /** Its file, used in place, is gone or changed. */
  readonly silent: boolean;
  readonly isCurrent: boolean;
  readonly isSelected: boolean;
  /** What is dragged would land here. */
  readonly isOver: boolean;
  /** Null = nothing is proposed. */
  readonly ticked: boolean | null;
  readonly onTick: (id: string, on: boolean) => void;
  readonly onSelect: (event: MouseEvent, id: string) => void;
  /** The column that is edited, if on this row. */
  readonly editing: ColumnId | null;
  readonly onEdit: (cell: EditedCell | null) => void;
  /** Whose cell Tab goes on to, while this one is edited. */
  readonly nextId: string | null;
  /** What tells a track's received name from the others; empty for folders. */
  readonly shownPath: string;
}

/** What makes a cell the one that rows are dragged by. */
export type DragProps = Record<string, unknown> & { readonly ref: (element: HTMLElement | null) => void };
