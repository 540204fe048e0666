'use client';
import {
  columnOrderingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { type KeyboardEvent, useMemo, useState } from 'react';
import { useSongMap } from '@/ui/client';
import { Button, Icon } from '@/ui/kit';
import { ColumnsMenu } from './columns-menu';
import type { SheetRow, SortColumn, SortedBy } from './rows';
import {
  COLUMN_IDS,
  type ColumnChoice,
  type ColumnId,
  COLUMNS,
  isFixed,
  moved,
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
  const onKeyDown = (event: KeyboardEvent, id: ColumnId): void => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key] as -1 | 1 | undefined;
    if (by === undefined || !event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    onChoose(moved(choice, id, by));
  };
  const drop = (id: ColumnId): void => {
    if (dragged === null || dragged === id) return;
    let next = choice;
    const at = (): number => layoutIndex(next, dragged) - layoutIndex(next, id);
    const by = at() < 0 ? 1 : -1;
    while (Math.sign(at()) === -by) next = moved(next, dragged, by);
    onChoose(next);
  };
  return (
    <div className="fm-sheet-head" role="row" aria-rowindex={1}>
      <span className="fm-head-begin" role="columnheader">
        <span className="fm-unseen">Proposal, colour, picture</span>
      </span>
      {table.getHeaderGroups()[0]?.headers.map((header) => {
        const id = header.column.id as ColumnId;
        const { title, head = title, isFigure } = COLUMNS[id];
        if (id === 'wave')
          // Marks and pictures come once the window is measured, and stay where they are then.
          return isMeasured ? (
            <Ruler key={id} width={layout.wave} length={length} />
          ) : (
            <span key={id} className="fm-ruler" role="columnheader">
              <span className="fm-unseen">Waveform</span>
            </span>
          );
        const here = sorted?.by === id ? sorted : null;
        return (
          <span
            key={id}
            role="columnheader"
            aria-sort={here === null ? undefined : here.down ? 'descending' : 'ascending'}
            className={`fm-head-cell fm-cell-${id}${isFigure ? ' num' : ''}${dragged === id ? ' is-dragging' : ''}`}
            onDragOver={(e) => e.preventDefault()}
            onDrop={() => drop(id)}
            onKeyDown={(e) => onKeyDown(e, id)}
          >
            {/* Not the whole cell: its edge is dragged for the width. */}
            <span
              draggable
              onDragStart={(e) => {
                e.dataTransfer.effectAllowed = 'move';
                setDragged(id);
              }}
              onDragEnd={() => setDragged(null)}
            >
              <SortButton by={id} label={head} here={here} onSort={onSort} />
            </span>
            <span
              className={`fm-resize${header.column.getIsResizing() ? ' is-on' : ''}`}
              role="separator"
              aria-orientation="vertical"
              aria-label={`Width of ${title}`}
              aria-valuenow={Math.round(layout.widths[id])}
              aria-valuemin={COLUMNS[id].least}
              aria-valuemax={COLUMNS[id].most}
              tabIndex={0}
              title="Drag: wider, narrower; double-click: as it came"
              onMouseDown={header.getResizeHandler()}
              onTouchStart={header.getResizeHandler()}
              onDoubleClick={() => onChoose({ ...choice, widths: { ...choice.widths, [id]: undefined } })}
              onKeyDown={(e) => {
                const by = { ArrowLeft: -WIDER_PX, ArrowRight: WIDER_PX }[e.key];
                if (by === undefined || e.altKey) return;
                e.preventDefault();
                e.stopPropagation();
                widen(id, layout.widths[id] + by);
              }}
            />
          </span>
        );
      })}
      <span className="fm-head-end" role="columnheader">
        <ColumnsMenu choice={choice} onChoose={onChoose} leftOut={layout.leftOut} />
      </span>
    </div>
  );
}

const layoutIndex = (choice: ColumnChoice, id: ColumnId): number => choice.order.indexOf(id);

/** Sorts what is looked at; once more turns it round, a third time is the order of the session again. */
function SortButton({
  by,
  label,
  here,
  onSort,
}: {
  readonly by: SortColumn;
  readonly label: string;
  readonly here: SortedBy | null;
  readonly onSort: (by: SortedBy | null) => void;
}) {
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

/** Seconds or bars over the shared time axis. */
function Ruler({ width, length }: { readonly width: number; readonly length: number }) {
  const map = useSongMap();
  const marks = useMemo(() => {
    if (!map) {
      const step = [5, 10, 15, 30, 60, 120, 300].find((s) => (width * s) / length > 60) ?? 600;
      return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => ({
        at: i * step,
        text: `${Math.floor((i * step) / 60)}:${String((i * step) % 60).padStart(2, '0')}`,
      })).filter((m) => (m.at / length) * width < width - 30 || m.at === 0);
    }
    const bars = Math.max(1, map.meters.toBar(map.tempo.toQuarters(length)).bar);
    const step = [1, 2, 4, 8, 16, 32, 64].find((s) => (width * s) / bars > 48) ?? 128;
    return Array.from({ length: Math.floor(bars / step) + 1 }, (_, i) => ({
      at: map.tempo.toSeconds(map.meters.barToQuarters(1 + i * step)),
      text: String(map.meters.numberOf(1 + i * step)),
    })).filter((m) => m.at < length);
  }, [map, width, length]);
  return (
    <span className="fm-ruler" role="columnheader">
      <span className="fm-unseen">Waveform</span>
      {marks.map((m) => (
        <span key={m.text} style={{ left: (m.at / length) * width }} aria-hidden="true">
          {m.text}
        </span>
      ))}
    </span>
  );
}
