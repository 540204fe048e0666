import { levelHeight, type LevelScale } from './level-scale';

/** Peaks of a recording as the page holds them. */
export interface PeakView {
  readonly framesPerEntry: number;
  /** min, max, min, max …; 32767 = full scale. */
  readonly minMax: Int16Array;
  /** Rate the frames count at, Hz. */
  readonly sampleRateHz: number;
}

/** How a waveform is painted. */
export interface WavePaint {
  readonly color: string;
  readonly scale: LevelScale;
  /** Of what reaches full scale. */
  readonly clip: string;
  /** Width of a column, CSS px: one pixel of the device. */
  readonly pixel: number;
}

const FULL = 32767;
/** Full scale of 16 bit, as it comes out of the pyramid: 32767/32768 of it. */
const CLIPPED = 32766;
/** Silence: quieter than −60 dBFS. */
const SILENT = 33;
/** Height of the mark of a full-scale column, px. */
const CLIP_PX = 2;
/** A silent stretch is a row of dots this far apart, px. */
const DOT_PX = 4;

/**
 * Draws the stretch `[fromSeconds, toSeconds)` of a waveform into a box, a column a pixel of the device.
 * Silence is a dotted line, what reaches full scale wears a mark at its end.
 */
export function drawWaveform(
  context: CanvasRenderingContext2D,
  peaks: PeakView,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  range: { readonly fromSeconds: number; readonly toSeconds: number },
  { color, scale, clip, pixel }: WavePaint,
): void {
  const middle = box.y + box.height / 2;
  const half = box.height / 2 - 1;
  const heightOf = (v: number): number => levelHeight(v / FULL, scale) * half;
  const entries = peaks.minMax.length / 2;
  const perSecond = peaks.sampleRateHz / peaks.framesPerEntry;
  const columns = Math.round(box.width / pixel);
  const perColumn = ((range.toSeconds - range.fromSeconds) / columns) * perSecond;
  const first = range.fromSeconds * perSecond;
  const dots = Math.max(1, Math.round(DOT_PX / pixel));
  context.fillStyle = color;
  const clipped: [x: number, up: boolean, down: boolean][] = [];
  for (let column = 0; column < columns; column++) {
    const from = Math.floor(first + column * perColumn);
    const to = Math.max(from + 1, Math.floor(first + (column + 1) * perColumn));
    if (to <= 0 || from >= entries) continue;
    let low = FULL;
    let high = -FULL - 1;
    for (let e = Math.max(0, from); e < Math.min(entries, to); e++) {
      low = Math.min(low, peaks.minMax[2 * e] as number);
      high = Math.max(high, peaks.minMax[2 * e + 1] as number);
    }
    const x = box.x + column * pixel;
    if (-low < SILENT && high < SILENT) {
      if (column % dots === 0) context.fillRect(x, middle - pixel / 2, pixel, pixel);
      continue;
    }
    const top = middle - Math.sign(high) * heightOf(Math.abs(high));
    const bottom = middle - Math.sign(low) * heightOf(Math.abs(low));
    context.fillRect(x, top, pixel, Math.max(pixel, bottom - top));
    if (high >= CLIPPED || low <= -CLIPPED) clipped.push([x, high >= CLIPPED, low <= -CLIPPED]);
  }
  context.fillStyle = clip;
  for (const [x, up, down] of clipped) {
    if (up) context.fillRect(x, box.y, Math.max(1, pixel), CLIP_PX);
    if (down) context.fillRect(x, box.y + box.height - CLIP_PX, Math.max(1, pixel), CLIP_PX);
  }
}

const LEVELS = [16_384, 4096, 1024, 256] as const;

/** The coarsest level of the pyramid that still has an entry for every column; the finest where even that has not. */
export const peakLevelFor = (framesPerColumn: number): number =>
  LEVELS.find((frames) => frames <= framesPerColumn) ?? LEVELS[LEVELS.length - 1] ?? 256;

/** A canvas made as fine as the screen, and empty; drawing counts in CSS px. Null where there is nothing to draw on. */
export function freshCanvas(
  canvas: HTMLCanvasElement | null,
  width: number,
  height: number,
): CanvasRenderingContext2D | null {
  const context = width > 0 ? canvas?.getContext('2d') : null;
  if (!canvas || !context) return null;
  const ratio = deviceRatio();
  const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
  // Another size makes it anew; what is as large is only wiped.
  if (canvas.width === w && canvas.height === h) context.reset();
  else {
    canvas.width = w;
    canvas.height = h;
  }
  context.scale(ratio, ratio);
  return context;
}

/** Pixels of the device a CSS px. */
export const deviceRatio = (): number => globalThis.devicePixelRatio || 1;
