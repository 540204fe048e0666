'use client';
import {
  DndContext,
  type DragMoveEvent,
  PointerSensor,
  useDraggable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useCallback, useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import type { SessionView } from '@/contracts';
import { isUncut, type Track, tracksInOrder, tracksUnder } from '@/core/session';
import { changesSomething } from '@/core/style';
import {
  selectOnly,
  type TrackPeaks,
  useTrackPeaks,
  useSession,
  useSessionStore,
  useWorkbench,
  workbench,
  songSeconds,
  useSongMap,
} from '@/ui/client';
import {
  differingPath,
  deviceRatio,
  formatDb,
  peakLevelFor,
  Pictogram,
  pictureOf,
  SummedWaveform,
  useElementSize,
  Waveform,
} from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { NotesPicture } from '@/ui/notes';
import { dropEdits } from './moves';
import { NameEditor } from './name-editor';
import { ROW_HEIGHTS, useRowHeight } from './row-height';
import { kindText, type SheetRow, type SortedBy } from './rows';

/** Widths of the columns before and after the waveform, px; the waveform takes the rest. */
const BEFORE_WAVE = 30 + 10 + 26 + 232 + 150;
const AFTER_WAVE = 62 + 30;

/** Whose name Tab goes on to: after a track the next track, folders between them passed by; after a folder the next row. */
const nextNamed = (rows: readonly SheetRow[], index: number): string | null =>
  rows.slice(index + 1).find((r) => r.kind === 'track' || rows[index]?.kind === 'folder')?.id ?? null;

/** Rows drawn beyond each edge. */
const OVERSCAN = 12;
/** What is drawn before the window is measured, so that the first rows come with the page. */
const FIRST_RECT = { width: 812, height: 600 };

/** Highest level of what sounds of a track, dBFS: of a recording as it was measured, of pieces as they are drawn. */
function peakText(
  track: Track,
  recording: SessionView['recordings'][number] | undefined,
  wave: TrackPeaks | undefined,
): string {
  if (isUncut(track)) return recording?.facts ? formatDb(recording.facts.peakDbfs) : '';
  if (!wave) return '';
  const peak = wave.peaks.minMax.reduce((most, x) => Math.max(most, Math.abs(x)), 0) / 32767;
  return formatDb(peak > 0 ? 20 * Math.log10(peak) : null);
}

interface SheetProps {
  /** Sorted for looking only; null = the order of the session. */
  readonly sorted: SortedBy | null;
  readonly onSort: (by: SortedBy | null) => void;
  readonly rows: readonly SheetRow[];
  readonly tickOf: (id: string) => boolean | null;
  readonly onTick: (id: string, on: boolean) => void;
  readonly editing: string | null;
  readonly onEdit: (id: string | null) => void;
}

/** The dense table of all tracks; only rows in sight are drawn. */
export function Sheet({ rows, sorted, onSort, tickOf, onTick, editing, onEdit }: SheetProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const store = useSessionStore();
  const { session, recordings } = useSession((s) => s.view);
  const current = useWorkbench((w) => w.current);
  const selected = useWorkbench((w) => w.selected);
  const width = useElementSize(scroller).width || FIRST_RECT.width;
  const byId = useMemo(() => new Map(recordings.map((r) => [r.id, r])), [recordings]);
  const pathOf = useMemo(() => {
    const differing = differingPath(tracksInOrder(session).map((t) => t.receivedName));
    return (name: string): string => Object.values(differing(name)).join('');
  }, [session]);
  const length = Math.max(1, songSeconds(session, recordings));
  const height = ROW_HEIGHTS[useRowHeight()];
  // Its functions stay here: nothing memoised depends on them.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: OVERSCAN,
    initialRect: FIRST_RECT,
  });
  useEffect(() => virtual.measure(), [virtual, height]);
  const items = virtual.getVirtualItems();
  const seen = useMemo(
    () =>
      items.flatMap((i) => {
        const r = rows[i.index];
        return r?.kind === 'track' ? [r.track] : [];
      }),
    [items, rows],
  );
  const peaks = useTrackPeaks(
    seen,
    peakLevelFor(
      (length * (session.sampleRateHz ?? 48_000)) /
        (Math.max(60, width - BEFORE_WAVE - AFTER_WAVE) * deviceRatio()),
    ),
  );
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const [dragged, setDragged] = useState<number>(0);
  const [over, setOver] = useState<string | null>(null);
  const grabbedAt = useRef(0);

  useEffect(() => {
    const at = rows.findIndex((r) => r.id === current);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Following the current row only; the virtualiser itself is stable.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current]);

  // The same function while it is scrolled: rows that stay in sight are not drawn again.
  const select = useCallback(
    (event: MouseEvent, id: string): void => {
      const { current: last, selected: chosen } = workbench.getState();
      const at = rows.findIndex((r) => r.id === id);
      const from = rows.findIndex((r) => r.id === last);
      if (event.shiftKey && from >= 0)
        workbench.setState({
          selected: new Set(rows.slice(Math.min(at, from), Math.max(at, from) + 1).map((r) => r.id)),
        });
      else if (event.ctrlKey || event.metaKey) {
        const next = new Set(chosen);
        if (next.has(id)) next.delete(id);
        else next.add(id);
        workbench.setState({ selected: next, current: id });
      } else selectOnly(id);
    },
    [rows],
  );
  /** The row under the pointer. Rows are all as high: none needs to be a target of its own, which would cost a drawing of all for each that scrolls into sight. */
  const rowUnder = ({ activatorEvent, delta }: DragMoveEvent): SheetRow | null => {
    const box = scroller.current?.getBoundingClientRect();
    if (!box || !(activatorEvent instanceof PointerEvent)) return null;
    const y = activatorEvent.clientY - box.top + grabbedAt.current + delta.y;
    const inside = y - (scroller.current?.scrollTop ?? 0);
    return inside < 0 || inside > box.height ? null : (rows[Math.floor(y / height)] ?? null);
  };
  const onDragEnd = (event: DragEndEvent): void => {
    const { active } = event;
    const target = rowUnder(event);
    setDragged(0);
    setOver(null);
    // Only where rows stand as they are is there a place to put one.
    if (sorted !== null || !target || target.id === active.id) return;
    const ids = selected.has(String(active.id)) ? [...selected] : [String(active.id)];
    const edits = dropEdits(session, ids, { id: target.id, into: target.kind === 'folder' });
    if (edits.length > 0)
      store.getState().commit(ids.length > 1 ? `Move ${ids.length} rows` : 'Move a row', edits);
  };
  const waveWidth = Math.max(60, width - BEFORE_WAVE - AFTER_WAVE);
  return (
    <>
      <div className="fm-sheet-head">
        <span style={{ width: 66 }} />
        <span style={{ width: 232 }}>
          <Header by="name" label="Name · as received" sorted={sorted} onSort={onSort} />
        </span>
        <span style={{ width: 150 }}>
          <Header by="kind" label="Family · part" sorted={sorted} onSort={onSort} />
        </span>
        <Ruler width={waveWidth} length={length} />
        <span className="num" style={{ width: 62 }}>
          <Header by="peak" label="Peak" sorted={sorted} onSort={onSort} />
        </span>
      </div>
      <div ref={scroller} className="fm-scroll fm-sheet">
        <DndContext
          id="sheet"
          sensors={sensors}
          onDragStart={({ active }) => {
            grabbedAt.current = scroller.current?.scrollTop ?? 0;
            setDragged(selected.has(String(active.id)) ? selected.size : 1);
          }}
          onDragMove={(e) => setOver(rowUnder(e)?.id ?? null)}
          onDragEnd={onDragEnd}
          onDragCancel={() => {
            setDragged(0);
            setOver(null);
          }}
        >
          <div
            role="grid"
            aria-rowcount={rows.length}
            aria-label="Tracks"
            aria-multiselectable="true"
            style={{ height: virtual.getTotalSize(), position: 'relative' }}
          >
            {items.map((item) => {
              const row = rows[item.index];
              if (!row) return null;
              const recording = row.kind === 'track' ? byId.get(row.track.recordingId) : undefined;
              return (
                <Row
                  key={row.id}
                  row={row}
                  top={item.start}
                  height={height}
                  waveWidth={waveWidth}
                  length={length}
                  wave={peaks.get(row.id) ?? null}
                  peakDb={row.kind === 'track' ? peakText(row.track, recording, peaks.get(row.id)) : ''}
                  silent={recording?.inPlace != null && recording.inPlace.state !== 'there'}
                  isCurrent={current === row.id}
                  isSelected={selected.has(row.id)}
                  isOver={over === row.id}
                  ticked={row.kind === 'track' ? tickOf(row.id) : null}
                  onTick={onTick}
                  onSelect={select}
                  isEditing={editing === row.id}
                  onEdit={onEdit}
                  nextId={nextNamed(rows, item.index)}
                  shownPath={row.kind === 'track' ? pathOf(row.track.receivedName) : ''}
                />
              );
            })}
          </div>
        </DndContext>
        <Playhead left={BEFORE_WAVE} width={waveWidth} length={length} />
      </div>
      <div className="visually-hidden" aria-live="assertive">
        {dragged > 0 ? `moving ${dragged}` : ''}
      </div>
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
    <button
      type="button"
      className="fm-head-button"
      aria-label={`${label}: ${here === null ? 'sort by it, to look at' : here.down ? 'the order of the session again' : 'turn round'}`}
      onClick={() => onSort(here === null ? { by, down: false } : here.down ? null : { by, down: true })}
    >
      {label}{' '}
      {here && <i className={`bi ${here.down ? 'bi-arrow-down' : 'bi-arrow-up'}`} aria-hidden="true" />}
    </button>
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
    <span className="fm-ruler" style={{ width }}>
      {marks.map((m) => (
        <span key={m.text} style={{ left: (m.at / length) * width }}>
          {m.text}
        </span>
      ))}
    </span>
  );
}

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

interface RowProps {
  readonly row: SheetRow;
  readonly top: number;
  readonly height: number;
  readonly waveWidth: number;
  readonly length: number;
  readonly wave: TrackPeaks | null;
  readonly peakDb: string;
  /** Its file, used in place, is gone or changed. */
  readonly silent: boolean;
  readonly isCurrent: boolean;
  readonly isSelected: boolean;
  /** What is dragged would land here. */
  readonly isOver: boolean;
  /** Null = nothing is proposed. */
  readonly ticked: boolean | null;
  readonly onTick: (id: string, on: boolean) => void;
  readonly onSelect: (event: MouseEvent, id: string) => void;
  readonly isEditing: boolean;
  readonly onEdit: (id: string | null) => void;
  readonly nextId: string | null;
  /** What tells a track's received name from the others; empty for folders. */
  readonly shownPath: string;
}

// Rows are placed by `top`, not by a transform: the drag sensor leaves transforms out when it measures where rows lie.
const Row = memo(function Row(props: RowProps) {
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
  return (
    <div
      className={classes.filter(Boolean).join(' ')}
      style={{ top, height }}
      role="row"
      aria-selected={isSelected}
      onClick={(e) => props.onSelect(e, row.id)}
      onDoubleClick={() => props.onEdit(row.id)}
    >
      {row.kind === 'folder' ? (
        <FolderCells {...props} row={row} drag={{ ref: dragRef, ...listeners, ...drag }} />
      ) : (
        <TrackCells {...props} row={row} drag={{ ref: dragRef, ...listeners, ...drag }} />
      )}
    </div>
  );
});

type DragProps = Record<string, unknown> & { readonly ref: (element: HTMLElement | null) => void };

/** What a folded folder holds, summed; muted tracks are left out. */
function FolderWave({
  row,
  width,
  height,
  length,
}: {
  readonly row: Extract<SheetRow, { kind: 'folder' }>;
  readonly width: number;
  readonly height: number;
  readonly length: number;
}) {
  const session = useSession((s) => s.view.session);
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const rate = session.sampleRateHz ?? 48_000;
  const heard = useMemo(() => tracksUnder(session, [row.id]).filter((t) => !t.muted), [session, row.id]);
  const peaks = useTrackPeaks(heard, peakLevelFor((length * rate) / (width * deviceRatio())));
  const sources = useMemo(() => [...peaks.values()], [peaks]);
  return (
    <SummedWaveform
      sources={sources}
      width={width}
      height={height}
      length={length}
      color={row.folder.color ?? unknownColor}
    />
  );
}

function FolderCells({
  row,
  waveWidth,
  height,
  length,
  isEditing,
  onEdit,
  nextId,
  drag,
}: RowProps & { readonly row: Extract<SheetRow, { kind: 'folder' }>; readonly drag: DragProps }) {
  const player = usePlayer();
  const store = useSessionStore();
  const inside = (): ReadonlySet<string> =>
    new Set(tracksUnder(store.getState().view.session, [row.id]).map((t) => t.id));
  const soloed = usePlayerState((s) => {
    if (s.soloIds.size === 0) return false;
    const ids = inside();
    return ids.size === s.soloIds.size && [...ids].every((id) => s.soloIds.has(id));
  });
  const toggle = (): void => {
    const folded = new Set(workbench.getState().folded);
    if (folded.has(row.id)) folded.delete(row.id);
    else folded.add(row.id);
    workbench.setState({ folded });
  };
  return (
    <>
      <span className="fm-cell-tick" role="gridcell">
        <button
          type="button"
          className="fm-fold"
          aria-expanded={!row.folded}
          aria-label={`${row.folded ? 'Unfold' : 'Fold'} ${row.folder.name}`}
          onClick={(e) => {
            e.stopPropagation();
            toggle();
          }}
        >
          <i
            className={`bi ${row.folded ? 'bi-caret-right-fill' : 'bi-caret-down-fill'}`}
            aria-hidden="true"
          />
        </button>
      </span>
      <span
        className="fm-cell-color"
        aria-hidden="true"
        style={{ background: row.folder.color ?? 'transparent' }}
      />
      <span className="fm-cell-icon" role="gridcell" {...drag} title="Drag to move">
        <Pictogram of="folder" />
      </span>
      <span className="fm-cell-name" role="gridcell" style={{ paddingLeft: row.depth * 12 }}>
        {isEditing ? (
          <NameEditor id={row.id} value={row.folder.name} kind="folder" nextId={nextId} onEdit={onEdit} />
        ) : (
          <>
            <b>{row.folder.name}</b> <span className="fm-faint">{row.count}</span>
          </>
        )}
      </span>
      <span className="fm-cell-kind fm-faint" role="gridcell">
        {row.busName ? `→ ${row.busName} bus` : 'not summed'}
      </span>
      {row.folded ? (
        <span
          className="fm-cell-wave"
          role="gridcell"
          title={`${row.count} folded, together`}
          onClick={(e) => {
            const box = e.currentTarget.getBoundingClientRect();
            player.seek(((e.clientX - box.left) / box.width) * length);
          }}
        >
          <FolderWave row={row} width={waveWidth} height={height - 4} length={length} />
        </span>
      ) : (
        <span className="fm-cell-fill" role="gridcell" />
      )}
      {row.folded && <span className="fm-cell-level" role="gridcell" />}
      <span className="fm-cell-mark" role="gridcell">
        <button
          type="button"
          className={`fm-fold ${soloed ? 'fm-lake' : ''}`}
          aria-pressed={soloed}
          aria-label={`Listen to ${row.folder.name} alone`}
          title={soloed ? 'Heard alone; again: all' : 'Listen to this folder alone (S)'}
          onClick={(e) => {
            e.stopPropagation();
            player.toggleSolo(inside());
          }}
        >
          <i className="bi bi-headphones" aria-hidden="true" />
        </button>
      </span>
    </>
  );
}

/** Notes, or the waveform, of a track over the whole song. */
function TrackPicture({
  track,
  wave,
  color,
  length,
  ...size
}: {
  readonly track: Track;
  readonly wave: TrackPeaks | null;
  readonly color: string;
  readonly length: number;
  readonly width: number;
  readonly height: number;
}) {
  if (track.tiedTo)
    return <NotesPicture track={track} {...size} fromSeconds={0} toSeconds={length} color={color} />;
  const start = wave?.startSeconds ?? 0;
  return (
    <Waveform
      peaks={wave?.peaks ?? null}
      {...size}
      fromSeconds={-start}
      toSeconds={length - start}
      color={color}
    />
  );
}

function TrackCells({
  row,
  waveWidth,
  height,
  length,
  wave,
  peakDb,
  silent,
  ticked,
  onTick,
  isEditing,
  onEdit,
  nextId,
  shownPath,
  drag,
}: RowProps & { readonly row: Extract<SheetRow, { kind: 'track' }>; readonly drag: DragProps }) {
  const player = usePlayer();
  const soloed = usePlayerState((s) => s.soloIds.has(row.id));
  const { track, proposal } = row;
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const picture = useSession((s) =>
    pictureOf(
      s.view.style,
      proposal && changesSomething(proposal) ? { ...track, ...proposal.fields } : track,
    ),
  );
  // What is proposed is shown in its place; what came stands beside it in grey.
  const shown = proposal && changesSomething(proposal) ? { ...track, ...proposal.fields } : track;
  const sure = proposal?.group ?? 'certain';
  const drawn = track.muted ? 'rgba(128,128,120,0.45)' : (shown.color ?? unknownColor);
  const settled = track.byHand.includes('family') || track.confidence >= 0.7;
  return (
    <>
      <span className="fm-cell-tick" role="gridcell">
        {ticked !== null && (
          <input
            type="checkbox"
            className="form-check-input"
            checked={ticked}
            aria-label={`Apply the proposal for ${track.receivedName}`}
            onClick={(e) => e.stopPropagation()}
            onChange={(e) => onTick(row.id, e.target.checked)}
          />
        )}
      </span>
      <span
        className="fm-cell-color"
        aria-hidden="true"
        style={{ background: shown.color ?? 'transparent' }}
      />
      <span className="fm-cell-icon" role="gridcell" {...drag} title="Drag to move">
        <Pictogram of={picture} />
      </span>
      <span className="fm-cell-name" role="gridcell" style={{ paddingLeft: row.depth * 12 }}>
        {isEditing ? (
          <NameEditor id={row.id} value={track.name} kind="track" nextId={nextId} onEdit={onEdit} />
        ) : (
          <>
            <b className={sure === 'unmatched' && !settled ? 'fm-attention' : undefined}>{shown.name}</b>{' '}
            <span className="fm-mono fm-faint fm-received-name" title={track.receivedName}>
              {shownPath}
            </span>
          </>
        )}
      </span>
      <span className="fm-cell-kind" role="gridcell" title={kindText(shown)}>
        {kindText(shown)}
      </span>
      <span
        className="fm-cell-wave"
        role="gridcell"
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          player.seek(((e.clientX - box.left) / box.width) * length);
        }}
      >
        <TrackPicture
          track={track}
          wave={wave}
          color={drawn}
          length={length}
          width={waveWidth}
          height={height - 4}
        />
      </span>
      <span className="fm-cell-level num" role="gridcell">
        {track.tiedTo ? <span className="fm-faint">notes</span> : peakDb}
      </span>
      <span className="fm-cell-mark" role="gridcell">
        {silent ? (
          <i
            className="bi bi-link-45deg fm-attention"
            role="img"
            aria-label="file missing or changed"
            title="Its file is not there or was changed: see Intake"
          />
        ) : soloed ? (
          <span className="fm-lake" title="Heard alone">
            S
          </span>
        ) : track.muted ? (
          <span className="fm-faint" title="Muted">
            M
          </span>
        ) : null}
        {settled && ticked === null ? (
          <i className="bi bi-check-lg fm-good" role="img" aria-label="settled" />
        ) : sure === 'unmatched' ? (
          <span className="fm-attention" role="img" aria-label="no rule matched">
            ?
          </span>
        ) : sure === 'doubtful' ? (
          <span className="fm-attention" role="img" aria-label="to check">
            !
          </span>
        ) : null}
      </span>
    </>
  );
}
