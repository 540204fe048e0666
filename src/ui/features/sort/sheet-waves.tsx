'use client';
import { memo, useEffect, useRef } from 'react';
import { type TrackPeaks } from '@/ui/client';
import {
  cssColor,
  deviceRatio,
  drawSoon,
  drawWaveform,
  freshCanvas,
  useLevelScale,
  useTheme,
} from '@/ui/kit';

/** What is drawn in one row; null = nothing, or not there yet. */
export interface RowWave {
  readonly wave: TrackPeaks | null;
  readonly color: string;
}

interface Props {
  readonly rows: readonly RowWave[];
  readonly top: number;
  readonly width: number;
  readonly rowHeight: number;
  /** Of the song, seconds. */
  readonly length: number;
}

const isSame = (a: RowWave | undefined, b: RowWave): boolean => a?.wave === b.wave && a.color === b.color;

/**
 * The waveforms of rows that stand below each other, on one canvas: a canvas a row would make the browser put together
 * dozens of layers whenever a row comes into sight. Only rows that changed are drawn again.
 */
export const WaveBlock = memo(
  function WaveBlock({ rows, top, width, rowHeight, length }: Props) {
    const ref = useRef<HTMLCanvasElement>(null);
    const { theme } = useTheme();
    const scale = useLevelScale();
    const drawn = useRef<{ key: string; context: CanvasRenderingContext2D | null; rows: RowWave[] }>({
      key: '',
      context: null,
      rows: [],
    });
    const count = rows.length;
    useEffect(() => {
      const key = [width, rowHeight, count, length, theme, scale, deviceRatio()].join(' ');
      if (drawn.current.key !== key)
        drawn.current = { key, context: freshCanvas(ref.current, width, rowHeight * count), rows: [] };
      const { context, rows: before } = drawn.current;
      if (!context) return undefined;
      const cancels = rows.map((row, i) => {
        if (isSame(before[i], row)) return () => undefined;
        return drawSoon(() => {
          before[i] = row;
          drawRow(context, row, { y: i * rowHeight, width, rowHeight, length, scale });
        });
      });
      return () => cancels.forEach((cancel) => cancel());
    }, [rows, count, width, rowHeight, length, theme, scale]);
    return <canvas ref={ref} className="fm-sheet-waves" style={{ top, width, height: rowHeight * count }} />;
  },
  (a, b) =>
    a.top === b.top &&
    a.width === b.width &&
    a.rowHeight === b.rowHeight &&
    a.length === b.length &&
    a.rows.length === b.rows.length &&
    a.rows.every((row, i) => isSame(b.rows[i], row)),
);

/** Space above and below a waveform in its row, px. */
const MARGIN = 2;

function drawRow(
  context: CanvasRenderingContext2D,
  { wave, color }: RowWave,
  at: {
    readonly y: number;
    readonly width: number;
    readonly rowHeight: number;
    readonly length: number;
    readonly scale: ReturnType<typeof useLevelScale>;
  },
): void {
  context.clearRect(0, at.y, at.width, at.rowHeight);
  if (!wave) return;
  drawWaveform(
    context,
    wave.peaks,
    { x: 0, y: at.y + MARGIN, width: at.width, height: at.rowHeight - 2 * MARGIN },
    { fromSeconds: -wave.startSeconds, toSeconds: at.length - wave.startSeconds },
    { color, scale: at.scale, clip: cssColor('--fm-clay'), pixel: 1 / deviceRatio() },
  );
}
