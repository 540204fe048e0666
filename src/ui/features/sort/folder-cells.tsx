'use client';
import { useMemo } from 'react';
import { tracksUnder } from '@/core/session';
import { useSession, useSessionStore, useTrackPeaks, workbench } from '@/ui/client';
import { Button, deviceRatio, Icon, peakLevelFor, Pictogram, SummedWaveform } from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { cellProps } from './grid-ids';
import { NameEditor } from './name-editor';
import type { ColumnId } from './sheet-columns';
import type { DragProps, FolderRow, RowProps } from './row-view';

/** The cells of a folder: it unfolds, is named, and shows its tracks together while it is folded. */
export function FolderCells({
  row,
  drag,
  columns,
  ...props
}: RowProps & { readonly row: FolderRow; readonly drag: DragProps }) {
  const toggle = (): void => {
    const folded = new Set(workbench.getState().folded);
    if (folded.has(row.id)) folded.delete(row.id);
    else folded.add(row.id);
    workbench.setState({ folded });
  };
  return (
    <>
      <span className="fm-cell-tick" role="gridcell">
        <Button
          tone="bare"
          className="fm-fold"
          tabIndex={-1}
          aria-expanded={!row.folded}
          aria-label={`${row.folded ? 'Unfold' : 'Fold'} ${row.folder.name}`}
          onClick={(e) => {
            e.stopPropagation();
            toggle();
          }}
        >
          <Icon name={row.folded ? 'caret-right-fill' : 'caret-down-fill'} />
        </Button>
      </span>
      <span
        className="fm-cell-color"
        aria-hidden="true"
        style={{ background: row.folder.color ?? 'transparent' }}
      />
      <span className="fm-cell-icon" role="gridcell" {...drag} title="Drag to move">
        <Pictogram of="folder" />
      </span>
      {columns.map((id) => (
        <FolderCell key={id} id={id} row={row} {...props} />
      ))}
      <span className="fm-cell-mark" role="gridcell">
        <AloneButton row={row} />
      </span>
    </>
  );
}

type CellProps = Omit<RowProps, 'row' | 'columns'> & { readonly row: FolderRow; readonly id: ColumnId };

function FolderCell({ id, row, column, waveWidth, height, length, editing, onEdit, nextId }: CellProps) {
  const player = usePlayer();
  const cell = cellProps(row.id, id, column);
  if (id === 'name')
    return (
      <span {...cell} style={{ paddingLeft: row.depth * 12 }}>
        {editing === 'name' ? (
          <NameEditor
            id={row.id}
            value={row.folder.name}
            kind="folder"
            nextId={nextId}
            onEdit={(next) => onEdit(next === null ? null : { id: next, column: 'name' })}
          />
        ) : (
          <>
            <b>{row.folder.name}</b> <span className="fm-faint">{row.count}</span>
          </>
        )}
      </span>
    );
  if (id === 'kind')
    return (
      <span {...cell}>
        <span className="fm-faint">{row.busName ? `→ ${row.busName} bus` : 'not summed'}</span>
      </span>
    );
  if (id === 'bus')
    return (
      <span {...cell}>
        <span className="fm-faint">{row.busName}</span>
      </span>
    );
  if (id !== 'wave') return <span {...cell} />;
  if (!row.folded) return <span {...cell} className="fm-cell-wave is-empty" />;
  return (
    <span
      {...cell}
      title={`${row.count} folded, together`}
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        player.seek(((e.clientX - box.left) / box.width) * length);
      }}
    >
      <FolderWave row={row} width={waveWidth} height={height - 4} length={length} />
    </span>
  );
}

/** What a folded folder holds, summed; muted tracks are left out. */
function FolderWave({
  row,
  width,
  height,
  length,
}: {
  readonly row: FolderRow;
  readonly width: number;
  readonly height: number;
  readonly length: number;
}) {
  const session = useSession((s) => s.view.session);
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const rate = session.sampleRateHz ?? 48_000;
  const audible = useMemo(() => tracksUnder(session, [row.id]).filter((t) => !t.muted), [session, row.id]);
  const peaks = useTrackPeaks(audible, peakLevelFor((length * rate) / (width * deviceRatio())));
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

function AloneButton({ row }: { readonly row: FolderRow }) {
  const player = usePlayer();
  const store = useSessionStore();
  const inside = (): ReadonlySet<string> =>
    new Set(tracksUnder(store.getState().view.session, [row.id]).map((t) => t.id));
  const soloed = usePlayerState((s) => {
    if (s.soloIds.size === 0) return false;
    const ids = inside();
    return ids.size === s.soloIds.size && [...ids].every((id) => s.soloIds.has(id));
  });
  return (
    <Button
      tone="bare"
      className={`fm-fold ${soloed ? 'fm-lake' : ''}`}
      tabIndex={-1}
      aria-pressed={soloed}
      aria-label={`Listen to ${row.folder.name} alone`}
      title={soloed ? 'Heard alone; again: all' : 'Listen to this folder alone (S)'}
      onClick={(e) => {
        e.stopPropagation();
        player.toggleSolo(inside());
      }}
    >
      <Icon name="headphones" />
    </Button>
  );
}
