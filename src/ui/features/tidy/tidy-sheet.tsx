'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, type MouseEvent, type PointerEvent, useEffect, useMemo, useRef } from 'react';
import { songSeconds, type TrackPeaks, useSession, useTrackPeaks, useWorkbench } from '@/ui/client';
import { chooseRow } from './choose-rows';
import {
  CheckBox,
  Clock,
  clockStep,
  deviceRatio,
  formatDb,
  peakLevelFor,
  useClock,
  useElementSize,
} from '@/ui/kit';
import { usePlayer, usePlayerState } from '@/ui/listening';
import { controlsOf, setTicks, useTidyHand } from './tidy-hand';
import { wholeTrack } from '@/core/tidy';
import { goneOf, type ShownPiece, type TidyRow, togetherWith } from './tidy-rows';
import { TidyWave } from './tidy-wave';
import type { Edge } from './move-edge';
import { useEdgePull } from './use-hand-cuts';

/** Height of a row, and what stands beside the picture, CSS px: as in the style sheet. */
const ROW_HEIGHT = 46;
const [BEFORE, BEHIND] = [228, 148];
const LEAST_WAVE = 80;
/** What is drawn before the window is measured. */
const FIRST_RECT = { width: 812, height: 600 };

/** All tracks with what stays and what goes of each. */
export function TidySheet({
  rows,
  inHand,
  onPiece,
  onEdge,
}: {
  readonly rows: readonly TidyRow[];
  /** The piece in hand, of the current row. */
  readonly inHand: ShownPiece | null;
  readonly onPiece: (trackId: string, piece: ShownPiece) => void;
  readonly onEdge: (row: TidyRow, edge: Edge, to: number) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(scroller);
  const session = useSession((s) => s.view.session);
  const recordings = useSession((s) => s.view.recordings);
  const current = useWorkbench((w) => w.current);
  const selected = useWorkbench((w) => w.selected);
  const rateHz = session.sampleRateHz ?? 48_000;
  // As long as everything that came: what was cut at the end is still to be seen.
  const ends = rows.map((r) => ((r.lane?.startFrames ?? 0) + r.lengthFrames) / rateHz);
  const length = Math.max(1, songSeconds(session, recordings), ...ends);
  const wave = Math.max(LEAST_WAVE, Math.floor((width || FIRST_RECT.width) - BEFORE - BEHIND));
  // Its functions stay here: nothing memoised depends on them.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 6,
    initialRect: FIRST_RECT,
  });
  const items = virtual.getVirtualItems();
  const drawn = rows.slice(items[0]?.index ?? 0, (items.at(-1)?.index ?? -1) + 1);
  const tracks = drawn.map((r) => wholeTrack(r.track));
  const peaks = useTrackPeaks(tracks, peakLevelFor((length * rateHz) / (wave * deviceRatio())));
  useEffect(() => {
    const at = rows.findIndex((r) => r.track.id === current);
    if (at >= 0) virtual.scrollToIndex(at, { align: 'auto' });
    // Following the current row only; the virtualiser itself is stable.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [current]);
  return (
    <div
      className="fm-grid"
      role="grid"
      tabIndex={0}
      aria-label="Tracks and what stays of them"
      aria-rowcount={rows.length + 1}
      aria-activedescendant={current !== null ? `tidy-${current}` : undefined}
      aria-multiselectable="true"
    >
      <Head width={wave} length={length} />
      <div ref={scroller} className="fm-scroll fm-sheet">
        <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const row = rows[item.index];
            if (!row) return null;
            const isCurrent = row.track.id === current;
            return (
              <Row
                key={row.track.id}
                row={row}
                rows={rows}
                index={item.index}
                top={item.start}
                wave={peaks.get(row.track.id) ?? null}
                width={wave}
                length={length}
                rateHz={rateHz}
                isCurrent={isCurrent}
                isSelected={selected.has(row.track.id)}
                inHand={isCurrent ? inHand : null}
                onPiece={onPiece}
                onEdge={onEdge}
              />
            );
          })}
          <Playhead width={wave} length={length} />
        </div>
      </div>
    </div>
  );
}

function Head({ width, length }: { readonly width: number; readonly length: number }) {
  const clock = useClock();
  const step = clockStep(width / length, 60);
  const ticks = useMemo(
    () => Array.from({ length: Math.max(1, Math.ceil(length / step)) }, (_, i) => i * step),
    [length, step],
  );
  return (
    <div className="fm-sheet-head" role="row">
      <span className="fm-cell-tick" role="columnheader">
        <span className="fm-unseen">Is cut</span>
      </span>
      <span className="fm-tidy-name" role="columnheader">
        Track
      </span>
      <span className="fm-ruler fm-tidy-picture" role="columnheader">
        <span className="fm-unseen">What stays and what goes</span>
        {ticks.map((t) => (
          <span key={t} style={{ left: (t / length) * width }} aria-hidden="true">
            {clock(t, 0)}
          </span>
        ))}
      </span>
      <span className="fm-tidy-figure num" role="columnheader">
        Goes
      </span>
      <span className="fm-tidy-figure num" role="columnheader" title="Level of the steady noise, dBFS RMS">
        Floor
      </span>
    </div>
  );
}

interface RowProps {
  readonly row: TidyRow;
  readonly rows: readonly TidyRow[];
  readonly index: number;
  readonly top: number;
  readonly wave: TrackPeaks | null;
  readonly width: number;
  readonly length: number;
  readonly rateHz: number;
  readonly isCurrent: boolean;
  readonly isSelected: boolean;
  readonly inHand: ShownPiece | null;
  readonly onPiece: (trackId: string, piece: ShownPiece) => void;
  readonly onEdge: (row: TidyRow, edge: Edge, to: number) => void;
}

const Row = memo(function Row({ row, rows, ...props }: RowProps) {
  const { track, proposal, ticked, pieces } = row;
  const player = usePlayer();
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const controls = useTidyHand((h) => controlsOf(h, track.id));
  const gone = goneOf(row, props.rateHz);
  const doubts = pieces.filter((p) => p.isDoubtful).length;
  const framesPerPx = (props.length * props.rateHz) / props.width;
  const frameAt = (event: MouseEvent<HTMLElement> | PointerEvent<HTMLElement>): number =>
    (event.clientX - event.currentTarget.getBoundingClientRect().left) * framesPerPx;
  const pull = useEdgePull(row, { frameAt, framesPerPx, onMove: props.onEdge });
  const hit = (event: MouseEvent<HTMLElement>): void => {
    const frame = frameAt(event);
    player.seek(frame / props.rateHz);
    // Only the play position: the piece in hand is kept, for what is done from there.
    if (event.altKey) return event.stopPropagation();
    const piece = pieces.find((p) => frame >= p.fromFrames && frame < p.toFrames);
    if (piece) props.onPiece(track.id, piece);
  };
  return (
    <div
      id={`tidy-${track.id}`}
      className={['fm-row', props.isSelected ? 'is-selected' : '', props.isCurrent ? 'is-current' : '']
        .filter(Boolean)
        .join(' ')}
      style={{ top: props.top, height: ROW_HEIGHT }}
      role="row"
      aria-rowindex={props.index + 2}
      aria-selected={props.isSelected}
      onClick={(event) =>
        chooseRow(
          rows.map((r) => r.track.id),
          event,
          track.id,
        )
      }
    >
      <span className="fm-cell-tick" role="gridcell">
        {ticked !== null && (
          <span onClick={(e) => e.stopPropagation()}>
            <CheckBox
              aria-label={`Cut ${track.name}`}
              checked={ticked}
              onChange={(e) => setTicks(togetherWith(rows, [track.id]), e.target.checked)}
            />
          </span>
        )}
      </span>
      <span className="fm-tidy-name" role="rowheader">
        <span className="fm-cell-color" style={{ background: track.color ?? unknownColor }} />
        <span className="fm-tidy-title">
          <b>{track.name}</b>
          <span className="fm-faint">{underName(row)}</span>
        </span>
      </span>
      <span className="fm-tidy-picture" role="gridcell" onClick={hit} {...pull.handlers}>
        <span className="fm-unseen">{spokenPieces(row, gone, doubts)}</span>
        <TidyWave
          wave={props.wave}
          pieces={pull.pieces}
          fades={row.fades}
          inHand={props.inHand}
          rateHz={props.rateHz}
          color={track.muted ? 'rgba(128,128,120,0.45)' : (track.color ?? unknownColor)}
          thresholdDb={controls.thresholdDb}
          width={props.width}
          height={ROW_HEIGHT - 2}
          length={props.length}
        />
      </span>
      <span className="fm-tidy-figure num" role="gridcell">
        {gone.places > 0 && <Clock seconds={gone.seconds} decimals={0} />}
        {doubts > 0 && <span className="fm-attention"> {doubts}?</span>}
      </span>
      <span className="fm-tidy-figure num" role="gridcell">
        {proposal && proposal.floorDbfs !== null ? (
          formatDb(proposal.floorDbfs)
        ) : (
          <span className="fm-faint">–</span>
        )}
      </span>
    </div>
  );
});

const spokenPieces = ({ ticked }: TidyRow, gone: ReturnType<typeof goneOf>, doubts: number): string =>
  gone.places === 0
    ? 'nothing goes'
    : `${gone.places} ${gone.places === 1 ? 'place' : 'places'} ${ticked === true ? 'would go' : 'are out'}, ${doubts} doubtful`;

/** What stands under a track's name: with what it is cut, or why nothing is proposed. */
function underName({ track, proposal, leftBecause, pieces }: TidyRow): string {
  if (leftBecause !== null)
    return {
      arranged: 'arranged by hand',
      waiting: 'not weighed yet',
      missing: 'its sound is not there',
    }[leftBecause];
  if (proposal === null || proposal.nothingBecause !== null)
    return pieces.every((p) => p.keeps) ? 'left whole' : 'nothing else would go';
  if (proposal.group === null) return track.clips.length > 1 ? `${track.clips.length} pieces` : '';
  return proposal.group === 'kit' ? 'with the kit' : 'with its other microphones';
}

function Playhead({ width, length }: { readonly width: number; readonly length: number }) {
  const position = usePlayerState((s) => s.positionSeconds);
  const playing = usePlayerState((s) => s.status === 'playing');
  if (!playing && position === 0) return null;
  return (
    <div className="fm-sheet-playhead" style={{ left: BEFORE + Math.min(1, position / length) * width }} />
  );
}
