'use client';
import { asNoun } from '@/core/naming';
import { moved, RowKeys, TextField } from '../fields';
import type { PartProps } from './part';

/** Order within a folder; folders themselves are put in order where they are made. */
export function OrderPart({ style, change }: PartProps) {
  return (
    <>
      <p className="fm-faint">
        Folders stand in the order of “Folders, sums”, families within one as they are named there. Then come
        part, position, number, left before right, and the name.
      </p>
      <div className="fm-two">
        <OrderList title="Parts" list={style.partOrder} onChange={(partOrder) => change({ partOrder })} />
        <OrderList
          title="Positions"
          list={style.positionOrder}
          onChange={(positionOrder) => change({ positionOrder })}
        />
      </div>
    </>
  );
}

function OrderList({
  title,
  list,
  onChange,
}: {
  readonly title: string;
  readonly list: readonly string[];
  readonly onChange: (list: string[]) => void;
}) {
  return (
    <section>
      <h3>{title}</h3>
      <TextField
        key={list.length}
        label={`Another of the ${title.toLowerCase()}`}
        hidden
        value=""
        placeholder="another …"
        onKeep={(t) => {
          const noun = asNoun(t);
          return noun === '' ? null : list.includes(noun) ? 'it is in the list' : onChange([...list, noun]);
        }}
      />
      <ol className="fm-order">
        {list.map((x, i) => (
          <li key={x}>
            <span className="fm-grow">{x.replaceAll('-', ' ')}</span>
            <RowKeys
              name={x}
              index={i}
              count={list.length}
              onMove={(to) => onChange(moved(list, i, to))}
              onRemove={() => onChange(list.filter((_, k) => k !== i))}
            />
          </li>
        ))}
      </ol>
      <p className="fm-faint">Those not named here come after, by name.</p>
    </section>
  );
}
