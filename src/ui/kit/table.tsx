import type { ComponentPropsWithRef, ReactNode } from 'react';
import { Button } from './button';
import { Icon } from './icon';

/** A table to read, line by line. */
export function Table({ className = '', ...rest }: ComponentPropsWithRef<'table'>) {
  return <table className={`fm-table ${className}`} {...rest} />;
}

/** By which column a table is sorted, and which way. */
export interface TableOrder<Column extends string> {
  readonly by: Column;
  readonly down: boolean;
}

/** Name of a column; where it can be sorted by, a click does it, and the next one turns it round. */
export function ColumnHead<Column extends string>({
  title,
  by,
  isFigure = false,
  isDownFirst = isFigure,
  order,
  onOrder,
}: {
  readonly title: ReactNode;
  /** Null: it cannot be sorted by. */
  readonly by: Column | null;
  readonly isFigure?: boolean;
  /** What one looks for first stands below: the largest, the newest. */
  readonly isDownFirst?: boolean;
  readonly order: TableOrder<Column> | null;
  readonly onOrder: (order: TableOrder<Column>) => void;
}) {
  const here = by !== null && order?.by === by ? order : null;
  return (
    <th
      scope="col"
      className={isFigure ? 'num' : undefined}
      aria-sort={here ? (here.down ? 'descending' : 'ascending') : undefined}
    >
      {by === null ? (
        title
      ) : (
        <Button
          tone="bare"
          className="fm-head-button"
          onClick={() => onOrder({ by, down: here ? !here.down : isDownFirst })}
        >
          {title} {here && <Icon name={here.down ? 'arrow-down' : 'arrow-up'} />}
        </Button>
      )}
    </th>
  );
}
