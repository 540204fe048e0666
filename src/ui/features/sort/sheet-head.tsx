'use client';
import {
  columnOrderingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { type KeyboardEvent, type ReactNode, useMemo, useState } from 'react';
import { useSongMap } from '@/ui/client';
import { barStep, Button, clockStep, Icon } from '@/ui/kit';
import { ColumnsMenu } from './columns-menu';
import type { SheetRow, SortColumn, SortedBy } from './rows';
import {
  COLUMN_IDS,
  type ColumnChoice,
  type ColumnId,
  COLUMNS,
  isFixed,
  moved,
  movedTo,
  type SheetLayout,
  within,
} from './sheet-columns';

const features = tableFeatures({
  columnOrderingFeature,
  columnVisibilityFeature,
  columnSizingFeature,
  columnResizingFeature,
});
/** The rows are virtual and drawn elsewhere: the table keeps the columns. */
const NO_ROWS: SheetRow[] = [];
const DEFINED = COLUMN_IDS.map((id) => ({
  id,
  size: COLUMNS[id].width,
  minSize: COLUMNS[id].least,
  maxSize: COLUMNS[id].most,
  enableHiding: !isFixed(id),
  enableResizing: id !== 'wave',
}));
/** What an arrow key makes a column wider. */
const WIDER_PX = 8;

interface SheetHeadProps {
  readonly choice: ColumnChoice;
  readonly onChoose: (choice: ColumnChoice) => void;
  readonly layout: SheetLayout;
  readonly isMeasured: boolean;
  /** Of the song, seconds. */
  readonly length: number;
  readonly sorted: SortedBy | null;
  readonly onSort: (by: SortedBy | null) => void;
}

/** Names of the columns: they sort, and are made wider, moved, shown and hidden here. */
export function SheetHead({ choice, onChoose, layout, isMeasured, length, sorted, onSort }: SheetHeadProps) {
  const [dragged, setDragged] = useState<ColumnId | null>(null);
  const table = useTable({
    features,
    columns: DEFINED,
    data: NO_ROWS,
    columnResizeMode: 'onChange',
    state: {
      columnOrder: [...choice.order],
      columnVisibility: Object.fromEntries(COLUMN_IDS.map((id) => [id, layout.columns.includes(id)])),
      columnSizing: layout.widths,
    },
    onColumnSizingChange: (change) => {
      const next = typeof change === 'function' ? change({ ...layout.widths }) : change;
      const changed = layout.columns.find(
        (id) => id !== 'wave' && next[id] !== undefined && next[id] !== layout.widths[id],
      );
      if (changed) widen(changed, next[changed] as number);
    },
  });
  const widen = (id: ColumnId, width: number): void =>
    onChoose({ ...choice, widths: { ...choice.widths, [id]: within(id, width) } });
  return (
    <div className="fm-sheet-head" role="row" aria-rowindex={1}>
      <span className="fm-head-begin" role="columnheader">
        <span className="fm-unseen">Proposal, colour, picture</span>
      </span>
      {table.getHeaderGroups()[0]?.headers.map((header) => {
        const id = header.column.id as ColumnId;
        // Marks and pictures come once the window is measured, and stay where they are then.
        if (id === 'wave') return <Ruler key={id} width={isMeasured ? layout.wave : null} length={length} />;
        return (
          <HeadCell
            key={id}
            id={id}
            width={layout.widths[id]}
            isDragged={dragged === id}
            onDrag={(on) => setDragged(on ? id : null)}
            onDrop={() => dragged !== null && dragged !== id && onChoose(movedTo(choice, dragged, id))}
            onMove={(by) => onChoose(moved(choice, id, by))}
            sort={<SortButton by={id} here={sorted?.by === id ? sorted : null} onSort={onSort} />}
            sorted={sorted?.by === id ? sorted : null}
            edge={{
              isHeld: header.column.getIsResizing(),
              onHold: header.getResizeHandler(),
              onWiden: (width) => widen(id, width),
              onReset: () => onChoose({ ...choice, widths: { ...choice.widths, [id]: undefined } }),
            }}
          />
        );
      })}
      <span className="fm-head-end" role="columnheader">
        <ColumnsMenu choice={choice} onChoose={onChoose} leftOut={layout.leftOut} />
      </span>
    </div>
  );
}

/** The right edge of a column, dragged for its width. */
interface Edge {
  readonly isHeld: boolean;
  readonly onHold: (event: unknown) => void;
  readonly onWiden: (width: number) => void;
  readonly onReset: () => void;
}

/** The name over a column, which sorts by it and is dragged to another place, and its edge. */
function HeadCell({
  id,
  width,
  sort,
  sorted,
  isDragged,
  onDrag,
  onDrop,
  onMove,
  edge,
}: {
  readonly id: ColumnId;
  /** CSS px. */
  readonly width: number;
  readonly sort: ReactNode;
  readonly sorted: SortedBy | null;
  readonly isDragged: boolean;
  readonly onDrag: (on: boolean) => void;
  readonly onDrop: () => void;
  readonly onMove: (by: -1 | 1) => void;
  readonly edge: Edge;
}) {
  const { title, isFigure, least, most } = COLUMNS[id];
  const onArrow = (event: KeyboardEvent, isMove: boolean, act: (by: -1 | 1) => void): void => {
    const by = ({ ArrowLeft: -1, ArrowRight: 1 } as const)[event.key];
    if (by === undefined || event.altKey !== isMove) return;
    event.preventDefault();
    event.stopPropagation();
    act(by);
  };
  return (
    <span
      role="columnheader"
      aria-sort={sorted === null ? undefined : sorted.down ? 'descending' : 'ascending'}
      className={`fm-head-cell fm-cell-${id}${isFigure ? ' num' : ''}${isDragged ? ' is-dragging' : ''}`}
      onDragOver={(e) => e.preventDefault()}
      onDrop={onDrop}
      onKeyDown={(e) => onArrow(e, true, onMove)}
    >
      {/* Not the whole cell: its edge is dragged for the width. */}
      <span
        draggable
        onDragStart={(e) => {
          e.dataTransfer.effectAllowed = 'move';
          onDrag(true);
        }}
        onDragEnd={() => onDrag(false)}
      >
        {sort}
      </span>
      <span
        className={`fm-resize${edge.isHeld ? ' is-on' : ''}`}
        role="separator"
        aria-orientation="vertical"
        aria-label={`Width of ${title}`}
        aria-valuenow={Math.round(width)}
        aria-valuemin={least}
        aria-valuemax={most}
        tabIndex={0}
        title="Drag: wider, narrower; double-click: as it came"
        onMouseDown={edge.onHold}
        onTouchStart={edge.onHold}
        onDoubleClick={edge.onReset}
        onKeyDown={(e) => onArrow(e, false, (by) => edge.onWiden(width + by * WIDER_PX))}
      />
    </span>
  );
}

/** Sorts what is looked at; once more turns it round, a third time is the order of the session again. */
function SortButton({
  by,
  here,
  onSort,
}: {
  readonly by: SortColumn;
  readonly here: SortedBy | null;
  readonly onSort: (by: SortedBy | null) => void;
}) {
  const { title, head: label = title } = COLUMNS[by];
  return (
    <Button
      tone="bare"
      className="fm-head-button"
      aria-label={`${label}: ${here === null ? 'sort by it, to look at' : here.down ? 'the order of the session again' : 'turn round'}`}
      title="Sort to look at; Alt ← → moves the column"
      onClick={() => onSort(here === null ? { by, down: false } : here.down ? null : { by, down: true })}
    >
      {label} {here && <Icon name={here.down ? 'arrow-down' : 'arrow-up'} />}
    </Button>
  );
}

/** Seconds or bars over the shared time axis; none while its width is not known. */
function Ruler({ width, length }: { readonly width: number | null; readonly length: number }) {
  const map = useSongMap();
  const marks = useMemo(() => {
    if (width === null) return [];
    if (!map) {
      const step = clockStep(width / length, 60);
      return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => ({
        at: i * step,
        text: `${Math.floor((i * step) / 60)}:${String((i * step) % 60).padStart(2, '0')}`,
      })).filter((m) => (m.at / length) * width < width - 30 || m.at === 0);
    }
    const bars = Math.max(1, map.meters.toBar(map.tempo.toQuarters(length)).bar);
    const step = barStep(width / bars, 48);
    return Array.from({ length: Math.floor(bars / step) + 1 }, (_, i) => ({
      at: map.tempo.toSeconds(map.meters.barToQuarters(1 + i * step)),
      text: String(map.meters.numberOf(1 + i * step)),
    })).filter((m) => m.at < length);
  }, [map, width, length]);
  return (
    <span className="fm-ruler" role="columnheader">
      <span className="fm-unseen">Waveform</span>
      {marks.map((m) => (
        <span key={m.text} style={{ left: (m.at / length) * (width ?? 0) }} aria-hidden="true">
          {m.text}
        </span>
      ))}
    </span>
  );
}
