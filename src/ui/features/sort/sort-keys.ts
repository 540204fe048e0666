import { workbench } from '@/ui/client';
import type { Shortcut } from '@/ui/kit';
import { isEdited } from './cell-edits';
import type { RowCommands } from './row-commands';
import { selectAll } from './row-commands';
import type { SheetRow } from './rows';
import type { EditedCell } from './row-view';
import { rowFurther, selectOneMore, selectUpTo } from './selection';
import type { ColumnId } from './sheet-columns';

/** Rows a page key walks. */
const PAGE_ROWS = 15;
/** What + and − do to the cell they stand on: dB, hundredths of a side. */
const STEPS = { level: 0.5, pan: 5 } as const;

/** What keys of the sheet act on. */
interface SheetInHand {
  readonly rows: readonly SheetRow[];
  /** As they stand in the sheet, from the left. */
  readonly columns: readonly ColumnId[];
  readonly commands: RowCommands;
  readonly onEdit: (cell: EditedCell) => void;
}

/** Keys that walk the grid: rows, columns, and selecting on the way. */
export function walkKeys({ rows, columns, commands }: SheetInHand): Shortcut[] {
  const step = (by: number, extend: boolean): void => {
    const next = rowFurther(rows, by);
    if (next === null) return;
    if (extend) selectUpTo(rows, next);
    else workbench.setState({ current: next, anchor: next, selected: new Set([next]), alone: false });
  };
  const look = (by: number): void => {
    const next = rowFurther(rows, by);
    if (next !== null) workbench.setState({ current: next, anchor: next });
  };
  const walk = (key: string, by: number): Shortcut[] =>
    [false, true].map((shift) => ({ key, shift, run: () => step(by, shift) }));
  const sideways = (by: -1 | 1): void => {
    const { current, column } = workbench.getState();
    const row = rows.find((r) => r.id === current);
    if (!row) return;
    if (row.kind === 'folder' && row.folded === by > 0) return commands.foldRow(row.id, by < 0);
    const edited: readonly string[] = columns.filter((id) => id === 'name' || isEdited(id));
    const at = column === null ? -1 : edited.indexOf(column);
    workbench.setState({ column: edited[Math.min(edited.length - 1, at + by)] ?? null });
  };
  return [
    ...walk('arrowdown', 1),
    ...walk('arrowup', -1),
    ...walk('pagedown', PAGE_ROWS),
    ...walk('pageup', -PAGE_ROWS),
    ...walk('home', -Infinity),
    ...walk('end', Infinity),
    { key: 'arrowdown', mod: true, run: () => look(1) },
    { key: 'arrowup', mod: true, run: () => look(-1) },
    {
      key: ' ',
      mod: true,
      run: () => {
        const { current } = workbench.getState();
        if (current !== null) selectOneMore(current);
      },
    },
    { key: 'arrowleft', run: () => sideways(-1) },
    { key: 'arrowright', run: () => sideways(1) },
    { key: 'a', mod: true, run: () => selectAll(rows) },
  ];
}

/** Keys that change the selected rows. */
export function changeKeys({ rows, commands, onEdit }: SheetInHand): Shortcut[] {
  const edit = (): void => {
    const { current, column } = workbench.getState();
    const row = rows.find((r) => r.id === current);
    if (!row) return;
    const isCell = row.kind === 'track' && column !== null;
    onEdit({ id: row.id, column: isCell ? (column as ColumnId) : 'name' });
  };
  const step = (by: -1 | 1): void => {
    const { column } = workbench.getState();
    if (column === 'level' || column === 'pan') commands.step(column, by * STEPS[column]);
  };
  return [
    { key: 'arrowdown', alt: true, run: () => commands.move(1) },
    { key: 'arrowup', alt: true, run: () => commands.move(-1) },
    { key: 'arrowright', alt: true, run: () => commands.nest(true) },
    { key: 'arrowleft', alt: true, run: () => commands.nest(false) },
    { key: 'enter', run: edit },
    { key: 'f2', run: edit },
    { key: '+', run: () => step(1) },
    { key: '-', run: () => step(-1) },
    { key: 'delete', run: commands.remove },
    { key: 'backspace', run: commands.remove },
  ];
}
