import type { MouseEvent } from 'react';
import type { ColumnId } from './sheet-columns';

/** The column of what was clicked. */
export const columnOf = (event: MouseEvent): ColumnId | null =>
  ((event.target as Element).closest<HTMLElement>('[data-column]')?.dataset.column as ColumnId | undefined) ??
  null;
