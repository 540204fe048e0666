'use client';
import {
  type CSSProperties,
  type MouseEvent,
  type RefObject,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { selectOnly, songSeconds, useSession, useWorkbench, workbench } from '@/ui/client';
import {
  type LongPressHandlers,
  MenuAt,
  type MenuItem,
  useElementSize,
  useLongPress,
  useShortcuts,
} from '@/ui/kit';
import { cellId, rowId } from './grid-ids';
import type { RowCommands } from './row-commands';
import { ROW_HEIGHTS, useRowHeight } from './row-height';
import type { SheetRow, SortedBy } from './rows';
import {
  COLUMN_IDS,
  type ColumnChoice,
  type ColumnId,
  FIRST_CHOICE,
  layOut,
  type SheetLayout,
} from './sheet-columns';
import { SheetHead } from './sheet-head';
import { SheetRows, type SheetRowsProps } from './sheet-rows';
import { changeKeys, walkKeys } from './sort-keys';
import { useColumnChoice } from './use-column-choice';
import { useRowDrag } from './use-row-drag';

interface SheetProps extends Omit<SheetRowsProps, 'scroller' | 'layout' | 'isMeasured' | 'length' | 'drag'> {
  /** Sorted for looking only; null = the order of the session. */
  readonly sorted: SortedBy | null;
  readonly onSort: (by: SortedBy | null) => void;
  readonly commands: RowCommands;
  /** The menu of a row, when it is asked for. */
  readonly menuOf: (row: SheetRow, columns: readonly ColumnId[]) => readonly MenuItem[];
}

/** Width before the window is measured, so that the first rows come with the page. */
const FIRST_WIDTH = 812;

/** The dense table of all tracks: a grid one walks by keys, whose rows unfold. */
export function Sheet({ sorted, onSort, commands, menuOf, ...rows }: SheetProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const grid = useRef<HTMLDivElement>(null);
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const { width } = useElementSize(scroller);
  const [choice, setChoice] = useColumnChoice();
  const layout = useMemo(() => layOut(choice, width || FIRST_WIDTH), [choice, width]);
  const length = Math.max(1, songSeconds(session, recordings));
  const current = useWorkbench((w) => w.current);
  const row = rows.rows.find((r) => r.id === current);
  const active = useActiveCell(grid, row?.id ?? null, layout.columns, rows.editing !== null);

  const inHand = { rows: rows.rows, columns: layout.columns, commands, onEdit: rows.onEdit };
  useShortcuts([...walkKeys(inHand), ...changeKeys(inHand)]);
  const menu = useRowMenu(grid, active);
  const height = ROW_HEIGHTS[useRowHeight()];
  const drag = useRowDrag({ rows: rows.rows, height, scroller, isSorted: sorted !== null });
  return (
    <>
      <div
        ref={grid}
        className="fm-grid"
        role="treegrid"
        tabIndex={0}
        aria-label="Tracks"
        aria-rowcount={rows.rows.length + 1}
        aria-colcount={layout.columns.length + 2}
        aria-multiselectable="true"
        aria-activedescendant={active ?? undefined}
        style={columnWidths(choice, layout, width > 0)}
        {...menu.handlers}
      >
        <SheetHead
          choice={choice}
          onChoose={setChoice}
          layout={layout}
          isMeasured={width > 0}
          length={length}
          sorted={sorted}
          onSort={onSort}
        />
        <SheetRows
          {...rows}
          scroller={scroller}
          layout={layout}
          isMeasured={width > 0}
          length={length}
          drag={drag}
        />
      </div>
      {menu.at !== null && row && (
        <MenuAt
          at={menu.at}
          label="Row"
          items={menuOf(row, layout.columns)}
          onClose={() => {
            menu.close();
            grid.current?.focus({ preventScroll: true });
          }}
        />
      )}
      <div className="fm-unseen" aria-live="assertive">
        {drag.count > 0 ? `moving ${drag.count}` : ''}
      </div>
    </>
  );
}

interface Point {
  /** CSS px from the window's corner. */
  readonly x: number;
  readonly y: number;
}

/** The menu of the current row: by a right click on it, a long touch, or the menu key. */
function useRowMenu(
  grid: RefObject<HTMLDivElement | null>,
  active: string | null,
): {
  readonly at: Point | null;
  readonly close: () => void;
  readonly handlers: LongPressHandlers & { readonly onContextMenu: (event: MouseEvent) => void };
} {
  const [at, setAt] = useState<Point | null>(null);
  const open = (target: EventTarget | null, point: Point): void => {
    const row =
      target instanceof Element ? target.closest<HTMLElement>('[data-row]')?.dataset.row : undefined;
    if (row !== undefined && !workbench.getState().selected.has(row)) selectOnly(row);
    else if (row !== undefined) workbench.setState({ current: row });
    if (workbench.getState().current !== null) setAt(point);
  };
  const isElsewhere = (target: EventTarget | null): boolean =>
    target instanceof Element && target.closest('.fm-sheet-head, input, select, .dropdown-menu') !== null;
  const held = useLongPress((target, x, y) => {
    if (!isElsewhere(target)) open(target, { x, y });
  });
  const onContextMenu = (event: MouseEvent): void => {
    const { target } = event;
    if (isElsewhere(target)) return;
    event.preventDefault();
    // The menu key asks for it without a point: it opens under the row.
    const isByKey = target === grid.current;
    const box = active === null ? undefined : document.getElementById(active)?.getBoundingClientRect();
    open(
      target,
      isByKey && box ? { x: box.left + 40, y: box.bottom } : { x: event.clientX, y: event.clientY },
    );
  };
  return { at, close: () => setAt(null), handlers: { ...held, onContextMenu } };
}

/** The cell or row the keyboard stands on, null = none that is shown; the grid has the focus then, so that it is told. */
function useActiveCell(
  grid: RefObject<HTMLDivElement | null>,
  row: string | null,
  columns: readonly ColumnId[],
  isEditing: boolean,
): string | null {
  const column = useWorkbench((w) => w.column);
  useEffect(() => {
    const { activeElement } = document;
    const isFree = activeElement === document.body || grid.current?.contains(activeElement);
    if (row !== null && !isEditing && isFree) grid.current?.focus({ preventScroll: true });
  }, [grid, row, column, isEditing]);
  if (row === null) return null;
  // A column that was hidden meanwhile has no cell to stand on.
  return columns.includes(column as ColumnId) ? cellId(row, column as ColumnId) : rowId(row);
}

/** Widths for the style sheet; none while it knows them itself, so that nothing moves when the window is measured. */
function columnWidths(
  choice: ColumnChoice,
  layout: SheetLayout,
  isMeasured: boolean,
): CSSProperties | undefined {
  if (!isMeasured && choice === FIRST_CHOICE) return undefined;
  return Object.fromEntries(
    COLUMN_IDS.filter((id) => id !== 'wave' && (isMeasured || id !== 'name')).map((id) => [
      `--fm-w-${id}`,
      `${layout.widths[id]}px`,
    ]),
  );
}
