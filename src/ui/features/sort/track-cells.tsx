'use client';
import type { Track } from '@/core/session';
import { useSession } from '@/ui/client';
import { CheckBox, Icon, Pictogram, pictureOf } from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { NotesPicture } from '@/ui/notes';
import { CellEditor } from './cell-editor';
import { cellText, isEdited, isPlain } from './cell-edits';
import { cellProps } from './grid-ids';
import { NameEditor } from './name-editor';
import type { ColumnId } from './sheet-columns';
import { type DragProps, pictureColor, type RowProps, shownTrack, type TrackRow } from './row-view';

/** Where a track is settled, or how sure what is proposed for it is. */
const isSettled = (track: Track): boolean => track.byHand.includes('family') || track.confidence >= 0.7;

/** The cells of a track. What is proposed is shown in its place; what came stands beside it in grey. */
export function TrackCells({
  row,
  columns,
  ticked,
  onTick,
  silent,
  drag,
  ...props
}: RowProps & { readonly row: TrackRow; readonly drag: DragProps }) {
  const shown = shownTrack(row);
  const picture = useSession((s) => pictureOf(s.view.style, shown));
  return (
    <>
      <span className="fm-cell-tick" role="gridcell" onClick={(e) => e.stopPropagation()}>
        {ticked !== null && (
          <CheckBox
            checked={ticked}
            tabIndex={-1}
            aria-label={`Apply the proposal for ${row.track.receivedName}`}
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
      {columns.map((id) => (
        <TrackCell key={id} id={id} row={row} shown={shown} {...props} />
      ))}
      <MarkCell row={row} ticked={ticked} silent={silent} />
    </>
  );
}

interface CellProps extends Omit<RowProps, 'row' | 'columns' | 'ticked' | 'onTick' | 'silent'> {
  readonly row: TrackRow;
  readonly shown: Track;
  readonly id: ColumnId;
}

function TrackCell({
  id,
  row,
  shown,
  column,
  busName,
  peakDb,
  editing,
  nextId,
  onEdit,
  ...props
}: CellProps) {
  const { track } = row;
  const cell = cellProps(row.id, id, column);
  if (id === 'wave') return <WaveCell cell={cell} row={row} {...props} />;
  if (id === 'name')
    return (
      <span {...cell} style={{ paddingLeft: row.depth * 12 }}>
        {editing === 'name' ? (
          <NameEditor
            id={row.id}
            value={track.name}
            kind="track"
            nextId={nextId}
            onEdit={(next) => onEdit(next === null ? null : { id: next, column: 'name' })}
          />
        ) : (
          <NameText row={row} shown={shown} shownPath={props.shownPath} />
        )}
      </span>
    );
  if (!isEdited(id))
    return (
      <span {...cell} className={`${cell.className} num`}>
        {track.tiedTo ? <span className="fm-faint">notes</span> : peakDb}
      </span>
    );
  const text = cellText(id, shown, busName);
  if (editing === id)
    return (
      <span {...cell}>
        <CellEditor track={track} shown={shown} column={id} text={text} nextId={nextId} onEdit={onEdit} />
      </span>
    );
  const isFigure = id === 'level' || id === 'pan';
  return (
    <span
      {...cell}
      className={`${cell.className}${isFigure ? ' num' : ''}${isPlain(id, shown) ? ' fm-faint' : ''}`}
      title={isFigure ? undefined : text}
    >
      {text}
    </span>
  );
}

function NameText({
  row,
  shown,
  shownPath,
}: {
  readonly row: TrackRow;
  readonly shown: Track;
  readonly shownPath: string;
}) {
  const isUnmatched = row.proposal?.group === 'unmatched' && !isSettled(row.track);
  return (
    <>
      <b className={isUnmatched ? 'fm-attention' : undefined}>{shown.name}</b>{' '}
      <span className="fm-mono fm-faint fm-received-name" title={row.track.receivedName}>
        {shownPath}
      </span>
    </>
  );
}

function WaveCell({
  cell,
  row,
  height,
  waveWidth,
  length,
}: Pick<RowProps, 'height' | 'waveWidth' | 'length'> & {
  readonly cell: Record<string, string>;
  readonly row: TrackRow;
}) {
  const player = usePlayer();
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  return (
    <span
      {...cell}
      style={{ height: height - 4 }}
      onClick={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        player.seek(((e.clientX - box.left) / box.width) * length);
      }}
    >
      {row.track.tiedTo && (
        <NotesPicture
          track={row.track}
          width={waveWidth}
          height={height - 4}
          fromSeconds={0}
          toSeconds={length}
          color={pictureColor(row, unknownColor)}
        />
      )}
    </span>
  );
}

/** What one must know of a track at a glance: silent, heard alone, muted; settled, or to check. */
function MarkCell({ row, ticked, silent }: Pick<RowProps, 'ticked' | 'silent'> & { readonly row: TrackRow }) {
  const soloed = usePlayerState((s) => s.soloIds.has(row.id));
  const { track, proposal } = row;
  return (
    <span className="fm-cell-mark" role="gridcell">
      {silent ? (
        <span title="Its file is not there or was changed: see Intake">
          <Icon name="link-45deg" className="fm-attention" label="file missing or changed" />
        </span>
      ) : soloed ? (
        <span className="fm-lake" title="Heard alone">
          S
        </span>
      ) : track.muted ? (
        <span className="fm-faint" title="Muted">
          M
        </span>
      ) : null}
      {isSettled(track) && ticked === null ? (
        <Icon name="check-lg" label="settled" className="fm-good" />
      ) : proposal?.group === 'unmatched' ? (
        <span className="fm-attention" role="img" aria-label="no rule matched">
          ?
        </span>
      ) : proposal?.group === 'doubtful' ? (
        <span className="fm-attention" role="img" aria-label="to check">
          !
        </span>
      ) : null}
    </span>
  );
}
