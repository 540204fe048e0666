'use client';
import { DndContext, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { type Range, useVirtualizer } from '@tanstack/react-virtual';
import { memo, useCallback, useEffect, useMemo, useState, type MouseEvent, type RefObject } from 'react';
import type { RecordingView } from '@/contracts';
import { isUncut, type Track, tracksInOrder } from '@/core/session';
import { type TrackPeaks, useTrackPeaks, useSession, useWorkbench, workbench } from '@/ui/client';
import { deviceRatio, differingPath, formatDb, peakLevelFor } from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import { ROW_HEIGHTS, useRowHeight } from './row-height';
import type { SheetRow } from './rows';
import { busText } from './cell-edits';
import type { SheetLayout } from './sheet-columns';
import { type EditedCell, pictureColor, shownTrack } from './row-view';
import { Row } from './sheet-row';
import { type RowWave, WaveBlock } from './sheet-waves';
import { selectByClick, selectOneMore, selectUpTo } from './selection';
import type { useRowDrag } from './use-row-drag';

export interface SheetRowsProps {
  readonly rows: readonly SheetRow[];
  readonly tickOf: (id: string) => boolean | null;
  readonly onTick: (id: string, on: boolean) => void;
  readonly editing: EditedCell | null;
  readonly onEdit: (cell: EditedCell | null) => void;
  readonly scroller: RefObject<HTMLDivElement | null>;
  readonly layout: SheetLayout;
  readonly isMeasured: boolean;
  /** Of the song, seconds. */
  readonly length: number;
  readonly drag: ReturnType<typeof useRowDrag>;
}

/** Whose name Tab goes on to: after a track the next track, folders between them passed by; after a folder the next row. */
const nextNamed = (rows: readonly SheetRow[], index: number): string | null =>
  rows.slice(index + 1).find((r) => r.kind === 'track' || rows[index]?.kind === 'folder')?.id ?? null;

/** Rows come and go so many at a time: a drawing for each would cost more than the rows do. */
const TOGETHER = 8;

/** Which rows to draw: whole blocks, with one and more beyond each edge; they stay as long as they hold what is in sight, so that a wheel that turns to and fro makes nothing again. */
function steadyBlocks(): (range: Range) => number[] {
  let held: readonly number[] = [];
  return ({ startIndex, endIndex, count }) => {
    const [from = 0, to = -1] = [held[0], held.at(-1)];
    const isEnough = held.length > 0 && from <= startIndex && to >= endIndex && to < count;
    if (!isEnough) {
      const first = Math.max(0, TOGETHER * Math.floor((startIndex - TOGETHER) / TOGETHER));
      const end = Math.min(count, TOGETHER * Math.ceil((endIndex + 1 + TOGETHER) / TOGETHER));
      held = Array.from({ length: Math.max(0, end - first) }, (_, i) => first + i);
    }
    return [...held];
  };
}

/** What is told of dragging is no part of the grid: its rows are all a grid may hold. */
const OUTSIDE_GRID = typeof document === 'undefined' ? {} : { container: document.body };

/** What is drawn before the window is measured, so that the first rows come with the page. */
const FIRST_RECT = { width: 812, height: 600 };

/** Highest level of what sounds of a track, dBFS: of a recording as it was measured, of pieces as they are drawn. */
function peakText(track: Track, recording: RecordingView | undefined, wave: TrackPeaks | undefined): string {
  if (isUncut(track)) return recording?.facts ? formatDb(recording.facts.peakDbfs) : '';
  if (!wave) return '';
  const peak = wave.peaks.minMax.reduce((most, x) => Math.max(most, Math.abs(x)), 0) / 32767;
  return formatDb(peak > 0 ? 20 * Math.log10(peak) : null);
}

/** Chooses rows by the pointer: one, up to here, or one more. */
function choose(rows: readonly SheetRow[], event: MouseEvent, id: string): void {
  workbench.setState({ column: null });
  if (event.shiftKey) selectUpTo(rows, id);
  else if (event.ctrlKey || event.metaKey) selectOneMore(id);
  else selectByClick(id, event.detail === 1);
}

/** All rows of the sheet; only those in sight are drawn. */
export function SheetRows({ scroller, drag, ...props }: SheetRowsProps) {
  const { rows, layout, length } = props;
  const waveWidth = layout.wave;
  const current = useWorkbench((w) => w.current);
  const rateHz = useSession((s) => s.view.session.sampleRateHz) ?? 48_000;
  const height = ROW_HEIGHTS[useRowHeight()];
  const [rangeExtractor] = useState(steadyBlocks);
  // Its functions stay here: nothing memoised depends on them.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    rangeExtractor,
    initialRect: FIRST_RECT,
  });
  useEffect(() => virtual.measure(), [virtual, height]);
  const items = virtual.getVirtualItems();
  const first = items[0]?.index ?? 0;
  const end = (items.at(-1)?.index ?? -1) + 1;
  const drawn = useMemo(() => rows.slice(first, end), [rows, first, end]);
  const peaks = useTrackPeaks(
    useMemo(() => drawn.flatMap((r) => (r.kind === 'track' ? [r.track] : [])), [drawn]),
    peakLevelFor((length * rateHz) / (waveWidth * deviceRatio())),
  );
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  useEffect(() => {
    const at = rows.findIndex((r) => r.id === current);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Following the current row only; the virtualiser itself is stable.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current]);
  const shown = { ...props, drawn, first, height, peaks };
  return (
    <div ref={scroller} className="fm-scroll fm-sheet">
      <DndContext id="sheet" sensors={sensors} accessibility={OUTSIDE_GRID} {...drag.handlers}>
        <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          <DrawnRows {...shown} over={drag.over} />
        </div>
      </DndContext>
      {props.isMeasured && <DrawnWaves {...{ drawn, first, height, peaks, layout, length }} />}
      <Playhead left={layout.before} width={layout.wave} length={length} />
    </div>
  );
}

/** The rows that are drawn, and where they stand. */
interface Drawn {
  readonly drawn: readonly SheetRow[];
  /** Index of the first of them. */
  readonly first: number;
  /** Of a row, CSS px. */
  readonly height: number;
  readonly peaks: ReadonlyMap<string, TrackPeaks>;
}

/** Memoised: while it is scrolled within what is drawn, nothing of it changes. */
const DrawnRows = memo(function DrawnRows({
  rows,
  drawn,
  first,
  height,
  peaks,
  over,
  tickOf,
  editing,
  layout,
  ...rest
}: Omit<SheetRowsProps, 'scroller' | 'drag'> & Drawn & { readonly over: string | null }) {
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const current = useWorkbench((w) => w.current);
  const column = useWorkbench((w) => w.column);
  const selected = useWorkbench((w) => w.selected);
  const byId = useMemo(() => new Map(recordings.map((r) => [r.id, r])), [recordings]);
  const pathOf = useMemo(() => {
    const differing = differingPath(tracksInOrder(session).map((t) => t.receivedName));
    return (name: string): string => Object.values(differing(name)).join('');
  }, [session]);
  const select = useCallback((event: MouseEvent, id: string): void => choose(rows, event, id), [rows]);
  return drawn.map((row, i) => {
    const track = row.kind === 'track' ? row.track : null;
    const recording = track ? byId.get(track.recordingId) : undefined;
    return (
      <Row
        key={row.id}
        {...rest}
        columns={layout.columns}
        waveWidth={layout.wave}
        row={row}
        index={first + i}
        column={current === row.id ? column : null}
        busName={row.kind === 'track' ? busText(shownTrack(row), session) : ''}
        top={(first + i) * height}
        height={height}
        peakDb={track ? peakText(track, recording, peaks.get(row.id)) : ''}
        silent={recording?.inPlace != null && recording.inPlace.state !== 'there'}
        isCurrent={current === row.id}
        isSelected={selected.has(row.id)}
        isOver={over === row.id}
        ticked={track ? tickOf(row.id) : null}
        onSelect={select}
        editing={editing?.id === row.id ? editing.column : null}
        nextId={editing?.id === row.id ? nextNamed(rows, first + i) : null}
        shownPath={track ? pathOf(track.receivedName) : ''}
      />
    );
  });
});

/** The waveforms of the rows that are drawn, a picture a block. */
const DrawnWaves = memo(function DrawnWaves({
  drawn,
  first,
  height,
  peaks,
  layout,
  length,
}: Drawn & Pick<SheetRowsProps, 'layout' | 'length'>) {
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const waves = drawn.map((row): RowWave =>
    row.kind === 'track' && !row.track.tiedTo
      ? { wave: peaks.get(row.id) ?? null, color: pictureColor(row, unknownColor) }
      : { wave: null, color: '' },
  );
  const blocks = Array.from({ length: Math.ceil(drawn.length / TOGETHER) }, (_, b) => b * TOGETHER);
  return (
    <div className="fm-sheet-pictures" style={{ left: layout.before }} aria-hidden="true">
      {blocks.map((at) => (
        <WaveBlock
          key={first + at}
          rows={waves.slice(at, at + TOGETHER)}
          top={(first + at) * height}
          width={layout.wave}
          rowHeight={height}
          length={length}
        />
      ))}
    </div>
  );
});

function Playhead({
  left,
  width,
  length,
}: {
  readonly left: number;
  readonly width: number;
  readonly length: number;
}) {
  const position = usePlayerState((s) => s.positionSeconds);
  const playing = usePlayerState((s) => s.status === 'playing');
  if (!playing && position === 0) return null;
  return (
    <div className="fm-sheet-playhead" style={{ left: left + Math.min(1, position / length) * width }} />
  );
}
