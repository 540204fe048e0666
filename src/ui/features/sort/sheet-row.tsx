'use client';
import { useDraggable } from '@dnd-kit/core';
import { memo } from 'react';
import { workbench } from '@/ui/client';
import { isEdited } from './cell-edits';
import { columnOf } from './column-of';
import { FolderCells } from './folder-cells';
import { rowId } from './grid-ids';
import { ROW_HEIGHTS } from './row-height';
import type { RowProps } from './row-view';
import { selectAgain } from './selection';
import { TrackCells } from './track-cells';

// Rows are placed by `top`, not by a transform: the drag sensor leaves transforms out when it measures where rows lie.
export const Row = memo(function Row(props: RowProps) {
  const { row, top, height, isCurrent, isSelected, isOver } = props;
  const { setNodeRef: dragRef, listeners, attributes, isDragging } = useDraggable({ id: row.id });
  const { role: _role, tabIndex: _tab, ...drag } = attributes;
  const classes = [
    'fm-row',
    height > ROW_HEIGHTS.low ? 'is-high' : '',
    row.kind === 'folder' ? 'is-folder' : '',
    isSelected ? 'is-selected' : '',
    isCurrent ? 'is-current' : '',
    isOver && !isDragging ? (row.kind === 'folder' ? 'is-target' : 'is-before') : '',
    isDragging ? 'is-dragging' : '',
  ];
  const dragged = { ref: dragRef, ...listeners, ...drag };
  return (
    <div
      id={rowId(row.id)}
      data-row={row.id}
      className={classes.filter(Boolean).join(' ')}
      style={{ top, height }}
      role="row"
      aria-rowindex={props.index + 2}
      aria-level={row.depth + 1}
      aria-expanded={row.kind === 'folder' ? !row.folded : undefined}
      aria-selected={isSelected}
      onClick={(e) => props.onSelect(e, row.id)}
      onDoubleClick={(e) => {
        const column = columnOf(e);
        const isCell = row.kind === 'track' && column !== null && isEdited(column);
        if (isCell) selectAgain(row.id);
        workbench.setState({ column: isCell ? column : null });
        props.onEdit({ id: row.id, column: isCell ? column : 'name' });
      }}
    >
      {row.kind === 'folder' ? (
        <FolderCells {...props} row={row} drag={dragged} />
      ) : (
        <TrackCells {...props} row={row} drag={dragged} />
      )}
    </div>
  );
});
