import { selectOnly, workbench } from '@/ui/client';
import type { SheetRow } from './rows';

/** Selects all rows from the one the selection began at to this one, which becomes the current: towards where it began fewer are selected again. */
export function selectUpTo(rows: readonly SheetRow[], id: string): void {
  const { anchor, current } = workbench.getState();
  const at = rows.findIndex((r) => r.id === id);
  const begun = rows.findIndex((r) => r.id === (anchor ?? current));
  if (at < 0) return;
  const from = begun < 0 ? at : begun;
  workbench.setState({
    anchor: rows[from]?.id ?? null,
    current: id,
    selected: new Set(rows.slice(Math.min(at, from), Math.max(at, from) + 1).map((r) => r.id)),
  });
}

/** What was selected before the click that may become a double-click. */
let beforeClick: ReadonlySet<string> = new Set();

/** Selects one row alone; a double-click on one of several brings them back ({@link selectAgain}). */
export function selectByClick(id: string, isFirst: boolean): void {
  if (isFirst) beforeClick = workbench.getState().selected;
  selectOnly(id);
}

/** Several that were selected before a double-click on one of them are selected again: what it edits, it edits of all. */
export function selectAgain(id: string): void {
  if (beforeClick.size > 1 && beforeClick.has(id)) workbench.setState({ selected: beforeClick });
}

/** Adds one row to the selection, or takes it out. */
export function selectOneMore(id: string): void {
  const selected = new Set(workbench.getState().selected);
  if (selected.has(id)) selected.delete(id);
  else selected.add(id);
  workbench.setState({ selected, current: id, anchor: id });
}

/** The row so many further on, at most the last or first; the first where none is current. */
export function rowFurther(rows: readonly SheetRow[], by: number): string | null {
  const at = rows.findIndex((r) => r.id === workbench.getState().current);
  return rows[Math.max(0, Math.min(rows.length - 1, at < 0 ? 0 : at + by))]?.id ?? null;
}
