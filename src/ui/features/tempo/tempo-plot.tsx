'use client';
import { useId, useRef } from 'react';
import { useSession } from '@/ui/client';
import {
  barStep,
  Button,
  Kbd,
  roundTicks,
  useElementSize,
  useShortcuts,
  useWindowPan,
  type WaveWindow,
} from '@/ui/kit';
import { usePlayerState } from '@/ui/listening';
import {
  PAD,
  PLOT_HEIGHT,
  PLOT_SPAN,
  type PlotData,
  type PlotScales,
  plotScales,
  usePlotData,
} from './plot-scales';
import { gridLines, type TempoModel } from './tempo-model';
import { usePlotWindow } from './use-plot-window';
import { type PointChanges, type PointInHand, usePointDrag } from './use-point-drag';

/** Numbers of bars stand at least so far apart, px. */
const BAR_APART_PX = 40;

/**
 * Tempo over the song: each pulse as measured a dot, the mean over a bar a line, doubt as a band; a map of few points as
 * its own line, whose points are drawn up and down, and sideways; the stretch in view below is framed. Zoomed by the wheel,
 * two fingers and Shift+Z, moved by a drag.
 */
export function TempoPlot({
  model,
  length,
  lanes,
  onSeek,
  ...changes
}: PointChanges & {
  readonly model: TempoModel;
  readonly length: number;
  /** The stretch in view below. */ readonly lanes: WaveWindow;
  readonly onSeek: (seconds: number) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const area = useRef<HTMLDivElement>(null);
  const { width } = useElementSize(box);
  const sight = usePlotWindow(length, lanes);
  useShortcuts([{ key: 'z', shift: true, run: sight.turn }]);
  const data = usePlotData(model);
  const inner = Math.max(1, width - PAD.left - PAD.right);
  const scales = plotScales(sight.window, data.tempi, inner);
  const point = usePointDrag(model, data, scales, changes);
  const pan = useWindowPan(area, sight, onSeek);
  const clip = useId();
  return (
    <div ref={box} className="fm-plot" style={{ height: PLOT_HEIGHT }}>
      <div
        ref={area}
        className="fm-plot-area"
        style={{ left: PAD.left, width: inner }}
        onPointerDown={(e) => {
          if (!point.grip(e)) pan.onPointerDown(e);
        }}
        onPointerMove={(e) => (point.isHeld() ? point.pull(e) : pan.onPointerMove(e))}
        onPointerUp={(e) => (point.isHeld() ? point.release() : pan.onPointerUp(e))}
        onPointerCancel={(e) => {
          point.letGo();
          pan.onPointerCancel(e);
        }}
      >
        {data.curve.length > 0 && (
          <svg
            width={width}
            height={PLOT_HEIGHT}
            style={{ marginLeft: -PAD.left }}
            role="img"
            aria-label={`Tempo over the song, between ${data.tempi[0]} and ${data.tempi[1]} BPM`}
          >
            <clipPath id={clip}>
              <rect x={PAD.left - 4} width={inner + 8} y={0} height={PLOT_HEIGHT} />
            </clipPath>
            <text x={14} y={17} className="fm-plot-title">
              Tempo, BPM{point.words}
            </text>
            <TempoLines tempi={data.tempi} scales={scales} width={width} />
            <g clipPath={`url(#${clip})`}>
              {!sight.isWhole && <BarNumbers model={model} window={sight.window} scales={scales} />}
              <SongLines lanes={lanes} scales={scales} />
              <Measured model={model} data={data} scales={scales} />
              <MapLine data={data} scales={scales} point={point} />
            </g>
          </svg>
        )}
      </div>
      {!sight.isWhole && (
        <Button tone="bare" className="fm-plot-whole" onClick={sight.turn}>
          Whole song <Kbd>Shift Z</Kbd>
        </Button>
      )}
    </div>
  );
}

/** A line for each round tempo. */
function TempoLines({
  tempi,
  scales: { y },
  width,
}: {
  readonly tempi: readonly [number, number];
  readonly scales: PlotScales;
  readonly width: number;
}) {
  return roundTicks(tempi, 5).map((t) => (
    <g key={t}>
      <line x1={PAD.left} x2={width - PAD.right} y1={y(t)} y2={y(t)} className="fm-plot-line" />
      <text x={width - 8} y={y(t) + 4} textAnchor="end" className="fm-plot-tick">
        {t}
      </text>
    </g>
  ));
}

/** Where one is, in a near look: the songline numbers the bars of the whole song. */
function BarNumbers({
  model: { map },
  window,
  scales: { x },
}: {
  readonly model: TempoModel;
  readonly window: WaveWindow;
  readonly scales: PlotScales;
}) {
  const bars = gridLines(map, window.from, window.to).filter((line) => line.bar !== null);
  const every = barStep((x(window.to) - x(window.from)) / Math.max(1, bars.length), BAR_APART_PX);
  return bars
    .filter((line) => ((line.bar as number) - 1) % every === 0)
    .map((line) => (
      <g key={line.seconds}>
        <Upright at={x(line.seconds)} className="fm-plot-line" />
        <text x={x(line.seconds) + 4} y={PLOT_HEIGHT - 5} className="fm-plot-tick">
          {line.bar}
        </text>
      </g>
    ));
}

/** What the song has there: markers, the stretch in view below, the play position. */
function SongLines({ lanes, scales: { x } }: { readonly lanes: WaveWindow; readonly scales: PlotScales }) {
  const position = usePlayerState((s) => s.positionSeconds);
  const markers = useSession((s) => s.view.session.markers);
  return (
    <>
      <rect
        x={x(lanes.from)}
        width={Math.max(2, x(lanes.to) - x(lanes.from))}
        y={PAD.top - 4}
        height={PLOT_SPAN + 8}
        className="fm-plot-window"
      />
      {markers.map((m) => (
        <g key={m.id}>
          <Upright at={x(m.seconds)} className="fm-plot-line" />
          <text x={x(m.seconds) + 4} y={PLOT_HEIGHT - 5} className="fm-plot-tick">
            {m.name.slice(0, 16)}
          </text>
        </g>
      ))}
      <Upright at={x(position)} className="fm-plot-now" />
    </>
  );
}

const Upright = ({ at, className }: { readonly at: number; readonly className: string }) => (
  <line x1={at} x2={at} y1={PAD.top - 4} y2={PLOT_HEIGHT - PAD.bottom + 4} className={className} />
);

/** Each pulse as measured, and how doubtful. */
function Measured({
  model,
  data: { curve },
  scales: { x, y },
}: {
  readonly model: TempoModel;
  readonly data: PlotData;
  readonly scales: PlotScales;
}) {
  const band = [
    ...curve.map((c) => `${x(c.seconds)},${y(c.smooth + 6 * (1 - c.confidence))}`),
    ...[...curve].reverse().map((c) => `${x(c.seconds)},${y(c.smooth - 6 * (1 - c.confidence))}`),
  ].join(' ');
  return (
    <>
      <polygon points={band} className="fm-plot-band" />
      {curve.map((c, i) => (
        <circle
          key={c.seconds}
          cx={x(c.seconds)}
          cy={y(c.bpm)}
          r={model.pulses[i]?.pinned ? 3 : 1.6}
          className={model.pulses[i]?.pinned ? 'fm-plot-pin' : 'fm-plot-dot'}
        />
      ))}
    </>
  );
}

/** The map as its own line, with the points to take hold of; of very many only the line they make. */
function MapLine({
  data: { curve, written },
  scales: { x, y },
  point,
}: {
  readonly data: PlotData;
  readonly scales: PlotScales;
  readonly point: PointInHand;
}) {
  const line =
    written?.flatMap((s, i) => {
      const moved = point.bpmOf(i) - s.bpm;
      return [`${x(s.from)},${y(s.bpm + moved)}`, `${x(s.to)},${y(s.ends + (s.ends === s.bpm ? moved : 0))}`];
    }) ?? curve.map((c) => `${x(c.seconds)},${y(c.smooth)}`);
  return (
    <>
      <polyline points={line.join(' ')} className="fm-plot-curve" />
      {written?.map((s, i) => (
        <rect
          key={s.from}
          x={x(s.from) - 4}
          y={y(point.bpmOf(i)) - 4}
          width={8}
          height={8}
          className="fm-plot-point"
        />
      ))}
      {point.goesTo !== null && <Upright at={x(point.goesTo)} className="fm-plot-going" />}
    </>
  );
}
