import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';

/** What a person has in hand on the page; kept over stages, not over reloads. */
export interface Workbench {
  /** Selected rows, by node id. */
  readonly selected: ReadonlySet<string>;
  /** The row that arrows move from and the right panel shows. */
  readonly current: string | null;
  readonly folded: ReadonlySet<string>;
  /** Key of the lens in force. */
  readonly lens: string;
}

/** The workbench of this page. */
export const workbench = createStore<Workbench>(() => ({ selected: new Set(), current: null, folded: new Set(), lens: 'all' }));

/** A part of the workbench. */
export const useWorkbench = <T,>(select: (w: Workbench) => T): T => useStore(workbench, select);

/** Selects one row alone. */
export const selectOnly = (id: string | null): void => workbench.setState({ current: id, selected: new Set(id === null ? [] : [id]) });
