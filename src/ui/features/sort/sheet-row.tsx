'use client';
import { useDraggable } from '@dnd-kit/core';
import { memo, useMemo, type MouseEvent } from 'react';
import { type Track, tracksUnder } from '@/core/session';
import { changesSomething } from '@/core/style';
import { useTrackPeaks, useSession, useSessionStore, workbench } from '@/ui/client';
import {
  Button,
  CheckBox,
  deviceRatio,
  Icon,
  peakLevelFor,
  Pictogram,
  pictureOf,
  SummedWaveform,
} from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { NotesPicture } from '@/ui/notes';
import { NameEditor } from './name-editor';
import { ROW_HEIGHTS } from './row-height';
import { kindText, type SheetRow } from './rows';

type TrackRow = Extract<SheetRow, { kind: 'track' }>;

/** A track as it would be with what is proposed for it. */
const shownTrack = ({ track, proposal }: TrackRow): Track =>
  proposal && changesSomething(proposal) ? { ...track, ...proposal.fields } : track;

/** What the picture of a track is drawn in. */
export const pictureColor = (row: TrackRow, unknownColor: string): string =>
  row.track.muted ? 'rgba(128,128,120,0.45)' : (shownTrack(row).color ?? unknownColor);

interface RowProps {
  readonly row: SheetRow;
  readonly top: number;
  readonly height: number;
  readonly waveWidth: number;
  readonly length: number;
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
  /** Whose name Tab goes on to, while this one is edited. */
  readonly nextId: string | null;
  /** What tells a track's received name from the others; empty for folders. */
  readonly shownPath: string;
}

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
        <Button
          tone="bare"
          className="fm-fold"
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
        <Button
          tone="bare"
          className={`fm-fold ${soloed ? 'fm-lake' : ''}`}
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
      </span>
    </>
  );
}

function TrackCells({
  row,
  waveWidth,
  height,
  length,
  peakDb,
  silent,
  ticked,
  onTick,
  isEditing,
  onEdit,
  nextId,
  shownPath,
  drag,
}: RowProps & { readonly row: TrackRow; readonly drag: DragProps }) {
  const player = usePlayer();
  const soloed = usePlayerState((s) => s.soloIds.has(row.id));
  const { track, proposal } = row;
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  // What is proposed is shown in its place; what came stands beside it in grey.
  const shown = shownTrack(row);
  const picture = useSession((s) => pictureOf(s.view.style, shown));
  const sure = proposal?.group ?? 'certain';
  const drawn = pictureColor(row, unknownColor);
  const settled = track.byHand.includes('family') || track.confidence >= 0.7;
  return (
    <>
      <span className="fm-cell-tick" role="gridcell" onClick={(e) => e.stopPropagation()}>
        {ticked !== null && (
          <CheckBox
            checked={ticked}
            aria-label={`Apply the proposal for ${track.receivedName}`}
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
        style={{ height: height - 4 }}
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          player.seek(((e.clientX - box.left) / box.width) * length);
        }}
      >
        {track.tiedTo && (
          <NotesPicture
            track={track}
            width={waveWidth}
            height={height - 4}
            fromSeconds={0}
            toSeconds={length}
            color={drawn}
          />
        )}
      </span>
      <span className="fm-cell-level num" role="gridcell">
        {track.tiedTo ? <span className="fm-faint">notes</span> : peakDb}
      </span>
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
        {settled && ticked === null ? (
          <Icon name="check-lg" label="settled" className="fm-good" />
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
