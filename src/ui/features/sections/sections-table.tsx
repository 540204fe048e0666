'use client';
import { useEffect, useRef } from 'react';
import { rowColor } from '@/core/style';
import type { SongMap } from '@/core/time';
import { useSession, useSongMap } from '@/ui/client';
import { Clock, Table } from '@/ui/kit';
import { barsBetween, type ShownSection } from './section-edits';
import type { Sections } from './use-sections';

/** Every section with its bars, its time and what is doubtful about it. */
export function SectionsTable({ sections: { rows, current, select } }: { readonly sections: Sections }) {
  const map = useSongMap();
  return (
    <div className="fm-scroll fm-levels" tabIndex={0} role="region" aria-label="Sections of the song">
      <Table className="fm-sections-table">
        <thead>
          <tr>
            <th scope="col">Section</th>
            <th scope="col" className="num">
              From bar
            </th>
            <th scope="col" className="num">
              Bars
            </th>
            <th scope="col" className="num">
              From
            </th>
            <th scope="col" className="num">
              Length
            </th>
            <th scope="col">To check</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Row
              key={row.id}
              row={row}
              map={map}
              isCurrent={row.id === current?.id}
              onSelect={() => select(row.id)}
            />
          ))}
        </tbody>
      </Table>
    </div>
  );
}

function Row({
  row,
  map,
  isCurrent,
  onSelect,
}: {
  readonly row: ShownSection;
  readonly map: SongMap | null;
  readonly isCurrent: boolean;
  readonly onSelect: () => void;
}) {
  const style = useSession((s) => s.view.style);
  const own = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (isCurrent) own.current?.scrollIntoView({ block: 'nearest' });
  }, [isCurrent]);
  return (
    <tr
      ref={own}
      className={isCurrent ? 'is-selected' : undefined}
      aria-current={isCurrent ? 'true' : undefined}
      onClick={onSelect}
    >
      <th scope="row">
        <span className="fm-level-color" style={{ background: rowColor(style, 'section', row.name) }} />
        {row.name}
      </th>
      <td className="num">{map ? barName(map, row.fromSeconds) : '–'}</td>
      <td className="num">{barsBetween(map, row.fromSeconds, row.toSeconds) ?? '–'}</td>
      <td className="num">
        <Clock seconds={row.fromSeconds} decimals={1} />
      </td>
      <td className="num">
        <Clock seconds={row.toSeconds - row.fromSeconds} decimals={1} />
      </td>
      <td className="fm-attention">{row.doubt}</td>
    </tr>
  );
}

/** What people call the bar a moment lies in, the line itself counted to the bar it begins. */
function barName(map: SongMap, seconds: number): string {
  const { bar } = map.meters.toBar(map.tempo.toQuarters(seconds + 0.005));
  return String(map.meters.numberOf(bar));
}
