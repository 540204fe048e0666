'use client';
import { Button, CheckBox, Icon, IconButton, Panel } from '@/ui/kit';
import { type ColumnChoice, type ColumnId, COLUMNS, FIRST_CHOICE, isFixed, moved } from './sheet-columns';

/** Which columns the sheet shows, in which order. */
export function ColumnsMenu({
  choice,
  onChoose,
  leftOut,
}: {
  readonly choice: ColumnChoice;
  readonly onChoose: (choice: ColumnChoice) => void;
  /** Chosen, but without room in this window. */
  readonly leftOut: readonly ColumnId[];
}) {
  const show = (id: ColumnId, on: boolean): void => {
    const shown = new Set(choice.shown);
    if (on) shown.add(id);
    else shown.delete(id);
    onChoose({ ...choice, shown });
  };
  const isSeen = (id: ColumnId): boolean => isFixed(id) || choice.shown.has(id);
  return (
    <Panel
      label={leftOut.length > 0 ? `Columns; no room for ${leftOut.length}` : 'Columns'}
      button={
        <>
          <Icon name="layout-three-columns" />
          {leftOut.length > 0 && <sup className="fm-attention">{leftOut.length}</sup>}
        </>
      }
    >
      <ul className="fm-plain-list">
        {choice.order.map((id) => (
          <li key={id} className="fm-column-line">
            <CheckBox
              id={`column-${id}`}
              checked={isSeen(id)}
              disabled={isFixed(id)}
              onChange={(e) => show(id, e.target.checked)}
            />
            <label htmlFor={`column-${id}`} className="fm-grow">
              {COLUMNS[id].title}
              {leftOut.includes(id) && <span className="fm-attention"> no room here</span>}
            </label>
            <IconButton
              label={`${COLUMNS[id].title} further left`}
              disabled={!isSeen(id)}
              onClick={() => onChoose(moved(choice, id, -1))}
            >
              <Icon name="arrow-up" />
            </IconButton>
            <IconButton
              label={`${COLUMNS[id].title} further right`}
              disabled={!isSeen(id)}
              onClick={() => onChoose(moved(choice, id, 1))}
            >
              <Icon name="arrow-down" />
            </IconButton>
          </li>
        ))}
      </ul>
      <Button tone="link" onClick={() => onChoose(FIRST_CHOICE)}>
        As they came
      </Button>
    </Panel>
  );
}
