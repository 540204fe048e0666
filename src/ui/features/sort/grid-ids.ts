/** Ids of a row and of its cells in the page: the grid names the active one by them. */
export const rowId = (id: string): string => `row-${id}`;
export const cellId = (id: string, column: string): string => `cell-${id}-${column}`;

/** What every cell of a column has; `active` = the column the keyboard stands on. */
export const cellProps = (id: string, column: string, active: string | null) => ({
  id: cellId(id, column),
  role: 'gridcell',
  'data-column': column,
  className: `fm-cell-${column}${active === column ? ' is-active' : ''}`,
});
