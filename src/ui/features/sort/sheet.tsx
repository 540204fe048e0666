'use client';
import { useMemo, useRef } from 'react';
import { songSeconds, useSession, useSongMap } from '@/ui/client';
import { Button, Icon, useElementSize } from '@/ui/kit';
import { sheetColumns } from './sheet-columns';
import { SheetRows, type SheetRowsProps } from './sheet-rows';
import type { SortedBy } from './rows';

interface SheetProps extends Omit<
  SheetRowsProps,
  'scroller' | 'columns' | 'isMeasured' | 'length' | 'isSorted'
> {
  /** Sorted for looking only; null = the order of the session. */
  readonly sorted: SortedBy | null;
  readonly onSort: (by: SortedBy | null) => void;
}

/** Width before the window is measured, so that the first rows come with the page. */
const FIRST_WIDTH = 812;

/** The dense table of all tracks. */
export function Sheet({ sorted, onSort, ...rows }: SheetProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const { width } = useElementSize(scroller);
  const columns = useMemo(() => sheetColumns(width || FIRST_WIDTH), [width]);
  const length = Math.max(1, songSeconds(session, recordings));
  return (
    <>
      <div className="fm-sheet-head">
        <span style={{ width: 66 }} />
        <span className="fm-head-name">
          <Header by="name" label="Name · as received" sorted={sorted} onSort={onSort} />
        </span>
        <span className="fm-head-kind">
          <Header by="kind" label="Family · part" sorted={sorted} onSort={onSort} />
        </span>
        {/* Marks and pictures come once the window is measured, and stay where they are then. */}
        {width > 0 ? <Ruler width={columns.wave} length={length} /> : <span className="fm-ruler" />}
        <span className="num" style={{ width: 62 }}>
          <Header by="peak" label="Peak" sorted={sorted} onSort={onSort} />
        </span>
      </div>
      <SheetRows
        {...rows}
        scroller={scroller}
        columns={columns}
        isMeasured={width > 0}
        length={length}
        isSorted={sorted !== null}
      />
    </>
  );
}

/** Sorts what is looked at; once more turns it round, a third time is the order of the session again. */
function Header({
  by,
  label,
  sorted,
  onSort,
}: { readonly by: SortedBy['by']; readonly label: string } & Pick<SheetProps, 'sorted' | 'onSort'>) {
  const here = sorted?.by === by ? sorted : null;
  return (
    <Button
      tone="bare"
      className="fm-head-button"
      aria-label={`${label}: ${here === null ? 'sort by it, to look at' : here.down ? 'the order of the session again' : 'turn round'}`}
      onClick={() => onSort(here === null ? { by, down: false } : here.down ? null : { by, down: true })}
    >
      {label} {here && <Icon name={here.down ? 'arrow-down' : 'arrow-up'} />}
    </Button>
  );
}

/** Seconds or bars over the shared time axis. */
function Ruler({ width, length }: { readonly width: number; readonly length: number }) {
  const map = useSongMap();
  const marks = useMemo(() => {
    if (!map) {
      const step = [5, 10, 15, 30, 60, 120, 300].find((s) => (width * s) / length > 60) ?? 600;
      return Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => ({
        at: i * step,
        text: `${Math.floor((i * step) / 60)}:${String((i * step) % 60).padStart(2, '0')}`,
      })).filter((m) => (m.at / length) * width < width - 30 || m.at === 0);
    }
    const bars = Math.max(1, map.meters.toBar(map.tempo.toQuarters(length)).bar);
    const step = [1, 2, 4, 8, 16, 32, 64].find((s) => (width * s) / bars > 48) ?? 128;
    return Array.from({ length: Math.floor(bars / step) + 1 }, (_, i) => ({
      at: map.tempo.toSeconds(map.meters.barToQuarters(1 + i * step)),
      text: String(map.meters.numberOf(1 + i * step)),
    })).filter((m) => m.at < length);
  }, [map, width, length]);
  return (
    <span className="fm-ruler">
      {marks.map((m) => (
        <span key={m.text} style={{ left: (m.at / length) * width }}>
          {m.text}
        </span>
      ))}
    </span>
  );
}
