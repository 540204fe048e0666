'use client';
import { type PointerEvent, useEffect, useRef } from 'react';
import type { RibbonPiece } from '@/core/comp';
import { lanesOf } from '@/core/session';
import { type TrackPeaks, useSession, useWorkbench } from '@/ui/client';
import {
  Button,
  drawSoon,
  freshCanvas,
  Icon,
  useHeld,
  useLevelScale,
  useTheme,
  type WaveWindow,
} from '@/ui/kit';
import { foldTakes } from './comp-hand';
import { type CompRow, soundingPieces, takeTitle } from './comp-rows';
import { drawTake, type TakePicture } from './draw-takes';
import { type Comp, takeRow } from './use-comp';

/** How near an edge is taken hold of, and phrase edges draw to them, px; a pointer that went less far only pointed. */
const [GRIP_PX, SNAP_PX, DRAG_PX] = [6, 8, 4];

interface RowProps {
  readonly row: CompRow;
  readonly comp: Comp;
  readonly place: { readonly index: number; readonly top: number; readonly height: number };
  readonly wave: TrackPeaks | null;
  readonly width: number;
  readonly window: WaveWindow;
  readonly lengths: ReadonlyMap<string, number>;
  readonly rateHz: number;
}

/** Colour of what does not count: a muted track, a take that was put aside. */
const UNUSED = 'rgba(128,128,120,0.6)';

/** A packed track, or one of its takes. */
export function TakeRow({ row, comp, place, ...picture }: RowProps) {
  const { track, lane } = row;
  const isOfCurrent = useWorkbench((w) => w.current) === track.id;
  const unknownColor = useSession((s) => s.view.style.colors.unknown);
  const isCurrent = isOfCurrent && comp.lane?.id === lane?.id;
  const color = track.color ?? unknownColor;
  return (
    <div
      id={rowId(row)}
      className={classOf(row, isCurrent)}
      style={{ top: place.top, height: place.height }}
      role="row"
      aria-rowindex={place.index + 2}
      aria-level={lane ? 2 : 1}
      aria-selected={isCurrent}
      {...(lane ? {} : { 'aria-expanded': row.isUnfolded })}
      onClick={() => takeRow(row)}
    >
      <span className="fm-take-name" role="rowheader">
        {lane ? (
          <TakeName lane={lane} comp={comp} isOfCurrent={isOfCurrent} />
        ) : (
          <TrackName row={row} color={color} />
        )}
      </span>
      <TakePictureCell
        {...picture}
        row={row}
        comp={comp}
        height={place.height - 2}
        color={track.muted || lane?.takeAside ? UNUSED : color}
        isOfCurrent={isOfCurrent}
      />
    </div>
  );
}

/** Id of a row in the page. */
export const rowId = ({ id }: CompRow): string => `take-${id}`;

const classOf = ({ lane }: CompRow, isCurrent: boolean): string =>
  [
    'fm-row',
    lane ? 'is-take' : '',
    lane?.takeAside ? 'is-aside' : '',
    isCurrent ? 'is-current is-selected' : '',
  ]
    .filter(Boolean)
    .join(' ');

function TakePictureCell({
  row,
  comp,
  wave,
  width,
  height,
  window,
  lengths,
  rateHz,
  color,
  isOfCurrent,
}: Omit<RowProps, 'place'> & {
  readonly height: number;
  readonly color: string;
  readonly isOfCurrent: boolean;
}) {
  const { track, lane } = row;
  const pieces = soundingPieces(track, lengths);
  const own = lane ? pieces.filter((p) => p.laneId === lane.id) : pieces;
  const pull = usePicturePull({ row, comp, pieces, window, width, rateHz });
  const sounding = own.map((p) => ({ fromSeconds: p.fromFrames / rateHz, toSeconds: p.toFrames / rateHz }));
  const phrases = isOfCurrent ? (comp.phrases?.phrases ?? []) : [];
  return (
    <span className="fm-tidy-picture" role="gridcell" {...pull.handlers}>
      <span className="fm-unseen">{spoken(row, own)}</span>
      <TakeCanvas
        width={width}
        height={height}
        window={window}
        wave={wave}
        color={color}
        sounding={lane ? sounding : null}
        numbers={lane ? [] : numbersOf(row, pieces, rateHz)}
        edges={phrases.slice(0, -1).map((p) => p.toSeconds)}
        inHand={isOfCurrent ? comp.phrase : null}
        drawn={pull.drawn}
      />
    </span>
  );
}

function TrackName({ row, color }: { readonly row: CompRow; readonly color: string }) {
  const { track, isUnfolded } = row;
  const sounding = new Set(track.clips.filter((c) => !c.off).map((c) => c.laneId)).size;
  const count = track.otherLanes.length + 1;
  return (
    <>
      <span className="fm-cell-color" style={{ background: color }} />
      <Button
        tone="quiet"
        aria-label={`${isUnfolded ? 'Hide' : 'Show'} takes of ${track.name}`}
        onClick={() => foldTakes(track.id, isUnfolded)}
      >
        <Icon name={isUnfolded ? 'chevron-down' : 'chevron-right'} />
      </Button>
      <span className="fm-tidy-title">
        <b>{track.name}</b>
        <span className="fm-faint">
          {count} takes, {sounding} sound{sounding === 1 ? 's' : ''}
        </span>
      </span>
    </>
  );
}

const RATING_WORDS = { keep: 'keep', maybe: 'maybe', no: 'no' } as const;

function TakeName({
  lane,
  comp,
  isOfCurrent,
}: {
  readonly lane: NonNullable<CompRow['lane']>;
  readonly comp: Comp;
  readonly isOfCurrent: boolean;
}) {
  const isHeard = isOfCurrent && comp.heard?.id === lane.id;
  return (
    <>
      <Button
        tone="quiet"
        isOn={isHeard}
        aria-label={`Hear take ${lane.takeNumber} in place`}
        disabled={!isOfCurrent || comp.unheard.some((l) => l.id === lane.id)}
        onClick={() => comp.hear(isHeard ? null : lane)}
      >
        <Icon name="headphones" />
      </Button>
      <b className="fm-mono">{lane.takeNumber}</b>
      <span className="fm-truncate" title={lane.receivedName}>
        {takeTitle(lane)}
      </span>
      <span className="fm-take-said">
        {lane.takeAside ? 'aside' : lane.takeRating ? RATING_WORDS[lane.takeRating] : ''}
        {lane.takeNote !== '' && <span title={lane.takeNote}> ✎</span>}
      </span>
    </>
  );
}

const numberOf = (row: CompRow, laneId: string): string =>
  String(lanesOf(row.track).find((l) => l.id === laneId)?.takeNumber ?? '?');

const numbersOf = (row: CompRow, pieces: readonly RibbonPiece[], rateHz: number): TakePicture['numbers'] =>
  pieces.flatMap((p, i) =>
    pieces[i - 1]?.laneId === p.laneId && pieces[i - 1]?.toFrames === p.fromFrames
      ? []
      : [{ atSeconds: p.fromFrames / rateHz, text: numberOf(row, p.laneId) }],
  );

const spoken = ({ lane }: CompRow, own: readonly RibbonPiece[]): string =>
  lane
    ? own.length === 0
      ? 'does not sound'
      : `sounds in ${own.length} ${own.length === 1 ? 'place' : 'places'}`
    : `${own.length} ${own.length === 1 ? 'piece' : 'pieces'}`;

/** Pointing into a picture takes the phrase there in hand; drawing over a take lets it sound there; pulling an edge of the track moves it. */
function usePicturePull({
  row,
  comp,
  pieces,
  window,
  width,
  rateHz,
}: Pick<RowProps, 'row' | 'comp' | 'window' | 'width' | 'rateHz'> & {
  readonly pieces: readonly RibbonPiece[];
}) {
  const held = useHeld<{
    readonly edge: number | null;
    readonly from: number;
    readonly to: number;
    readonly moved: boolean;
  }>();
  const perPx = (window.to - window.from) / width;
  const at = (event: PointerEvent<HTMLElement>): number =>
    window.from + (event.clientX - event.currentTarget.getBoundingClientRect().left) * perPx;
  const meeting = (seconds: number): number | null =>
    row.lane
      ? null
      : (pieces
          .flatMap((p, i) => (pieces[i - 1]?.toFrames === p.fromFrames ? [p.fromFrames] : []))
          .find((f) => Math.abs(f / rateHz - seconds) < GRIP_PX * perPx) ?? null);
  const snapped = (seconds: number): number => {
    const edges = comp.track?.id === row.track.id ? (comp.phrases?.phrases ?? []) : [];
    const near = edges
      .flatMap((p) => [p.fromSeconds, p.toSeconds])
      .find((e) => Math.abs(e - seconds) < SNAP_PX * perPx);
    return near ?? seconds;
  };
  const now = held.shown;
  return {
    drawn:
      now?.moved && (row.lane || now.edge !== null)
        ? { fromSeconds: Math.min(now.from, now.to), toSeconds: Math.max(now.from, now.to) }
        : null,
    handlers: {
      onPointerDown: (event: PointerEvent<HTMLElement>): void => {
        if (event.button !== 0) return;
        const seconds = at(event);
        const edge = meeting(seconds);
        event.currentTarget.setPointerCapture(event.pointerId);
        const from = edge === null ? seconds : edge / rateHz;
        held.hold({ edge, from, to: seconds, moved: false });
      },
      onPointerMove: (event: PointerEvent<HTMLElement>): void => {
        const last = held.latest();
        if (!last) {
          event.currentTarget.style.cursor = meeting(at(event)) === null ? '' : 'ew-resize';
          return;
        }
        const seconds = at(event);
        held.hold({
          ...last,
          to: seconds,
          moved: last.moved || Math.abs(seconds - last.from) > DRAG_PX * perPx,
        });
      },
      onPointerUp: (event: PointerEvent<HTMLElement>): void => {
        const left = held.letGo();
        if (!left) return;
        takeRow(row);
        if (!left.moved) return comp.takePhrase(at(event));
        if (left.edge !== null) return comp.moveEdge(left.edge, Math.round(left.to * rateHz));
        if (!row.lane || comp.track?.id !== row.track.id) return;
        const [fromSeconds, toSeconds] = [
          snapped(Math.min(left.from, left.to)),
          snapped(Math.max(left.from, left.to)),
        ];
        if (toSeconds > fromSeconds) comp.choose(row.lane, { fromSeconds, toSeconds });
      },
      onPointerCancel: (): void => void held.letGo(),
      onDoubleClick: (): void => {
        if (row.lane && comp.track?.id === row.track.id) comp.choose(row.lane);
      },
    },
  };
}

function TakeCanvas({
  width,
  height,
  window,
  ...picture
}: TakePicture & { readonly width: number; readonly height: number; readonly window: WaveWindow }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { theme } = useTheme();
  const scale = useLevelScale();
  // Small lists, made anew with each drawing of the row.
  const key = JSON.stringify([
    picture.sounding,
    picture.numbers,
    picture.edges,
    picture.inHand,
    picture.drawn,
  ]);
  const { wave, color } = picture;
  const latest = useRef(picture);
  useEffect(() => {
    latest.current = picture;
  });
  useEffect(
    () =>
      drawSoon(() => {
        const context = freshCanvas(ref.current, width, height);
        if (context) drawTake(context, latest.current, { width, height, window, scale });
      }),
    // The window is made anew as well: its numbers count.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [wave, color, key, width, height, window.from, window.to, scale, theme],
  );
  return <canvas ref={ref} className="fm-tidy-wave" style={{ width, height }} aria-hidden="true" />;
}
