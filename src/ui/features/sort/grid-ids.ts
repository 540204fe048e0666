/** Ids of a row and of its cells in the page: the grid names the active one by them. */
export const rowId = (id: string): string => `row-${id}`;
export const cellId = (id: string, column: string): string => `cell-${id}-${column}`;
