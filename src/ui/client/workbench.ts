import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

/** What a person has in hand on the page; a session's is kept over stages and reloads (`kept-place.ts`). */
export interface Workbench {
  /** Selected rows, by node id. */
  readonly selected: ReadonlySet<string>;
  /** The row that arrows move from and the right panel shows. */
  readonly current: string | null;
  /** The column of the current row that the keyboard stands on; null = the whole row. */
  readonly column: string | null;
  /** The row a selection of several began at; null = the current one. */
  readonly anchor: string | null;
  readonly folded: ReadonlySet<string>;
  /** Keys of the lenses in force, together; none = everything. */
  readonly lenses: ReadonlySet<string>;
  /** What is changed is changed on one track of a group alone, until another is chosen. */
  readonly alone: boolean;
  /** Words a row's names must have. */
  readonly filter: string;
  /** Job of a detection of the tempo that was put aside for the map there is; null = none. */
  readonly tempoPutAside: string | null;
}

/** Nothing chosen, everything shown. */
export const NOTHING_IN_HAND: Workbench = {
  selected: new Set(),
  current: null,
  column: null,
  anchor: null,
  folded: new Set(),
  lenses: new Set(),
  alone: false,
  filter: '',
  tempoPutAside: null,
};

/** The workbench of this page. */
export const workbench = createStore<Workbench>(() => NOTHING_IN_HAND);

/** A part of the workbench. */
export const useWorkbench = <T>(select: (w: Workbench) => T): T => useStore(workbench, select);

/** Selects one row alone. */
export const selectOnly = (id: string | null): void =>
  workbench.setState({ current: id, anchor: id, selected: new Set(id === null ? [] : [id]), alone: false });

/** Switches to one lens, or adds it to those in force and takes it out again. */
export function chooseLens(key: string, add: boolean): void {
  const { lenses } = workbench.getState();
  if (key === 'all') return workbench.setState({ lenses: new Set(), filter: '' });
  const next = new Set(add ? lenses : []);
  if (add && lenses.has(key)) next.delete(key);
  else next.add(key);
  workbench.setState({ lenses: next });
}
