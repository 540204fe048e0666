import { levelHeight, type WavePaint } from '@/ui/kit';
import type { SampleView } from './samples';

interface Stretch {
  /** Frame at the left edge, may lie between two. */
  readonly fromFrame: number;
  readonly framesPerPx: number;
}

/** From here on each sample wears a dot: px from one to the next. */
const DOTS_FROM_PX = 5;
const DOT_RADIUS = 2;
/** Below so many frames a pixel samples are joined by lines, a line a channel; above they make columns, as peaks do. */
const LINES_BELOW = 1;

/** Draws samples themselves. False where some are not there yet: then nothing is drawn, and coarser peaks can stand in. */
export function drawSamples(
  context: CanvasRenderingContext2D,
  samples: SampleView,
  box: { readonly width: number; readonly height: number; readonly y: number },
  { fromFrame, framesPerPx }: Stretch,
  paint: WavePaint,
): boolean {
  const first = Math.max(0, Math.floor(fromFrame));
  const last = Math.min(samples.toFrame, Math.ceil(fromFrame + box.width * framesPerPx) + 1);
  if (!samples.isThere) return false;
  const middle = box.y + box.height / 2;
  const y = (v: number): number =>
    middle - Math.sign(v) * levelHeight(Math.abs(v), paint.scale) * (box.height / 2 - 1);
  const x = (frame: number): number => (frame - fromFrame) / framesPerPx;
  if (framesPerPx >= LINES_BELOW) {
    drawColumns(context, samples, box, { fromFrame, framesPerPx }, paint, y);
    return true;
  }
  context.lineWidth = 1.25;
  for (let c = 0; c < samples.channels; c++) {
    // The second of two channels is a fainter line over the first.
    context.globalAlpha = c === 0 ? 1 : 0.55;
    context.strokeStyle = paint.color;
    context.fillStyle = paint.color;
    context.beginPath();
    let isDown = false;
    for (let f = first; f < last; f++) {
      const v = samples.at(c, f);
      if (v !== null)
        if (isDown) context.lineTo(x(f), y(v));
        else context.moveTo(x(f), y(v));
      isDown = v !== null;
    }
    context.stroke();
    if (1 / framesPerPx >= DOTS_FROM_PX)
      for (let f = first; f < last; f++) {
        const v = samples.at(c, f);
        if (v === null) continue;
        context.fillStyle = Math.abs(v) >= FULL_SCALE ? paint.clip : paint.color;
        context.beginPath();
        context.arc(x(f), y(v), DOT_RADIUS, 0, 2 * Math.PI);
        context.fill();
      }
  }
  context.globalAlpha = 1;
  return true;
}

/** Full scale of 16 bit, the coarsest in use. */
const FULL_SCALE = 32767 / 32768;
const CLIP_PX = 2;

function drawColumns(
  context: CanvasRenderingContext2D,
  samples: SampleView,
  box: { readonly width: number; readonly height: number; readonly y: number },
  { fromFrame, framesPerPx }: Stretch,
  { color, clip, pixel }: WavePaint,
  y: (v: number) => number,
): void {
  const columns = Math.round(box.width / pixel);
  const per = framesPerPx * pixel;
  const clipped: number[] = [];
  context.fillStyle = color;
  for (let column = 0; column < columns; column++) {
    const from = Math.max(0, Math.floor(fromFrame + column * per));
    const to = Math.max(from + 1, Math.floor(fromFrame + (column + 1) * per));
    let low = Infinity;
    let high = -Infinity;
    // From the sample before: neighbouring columns touch, as the line between them would.
    for (let f = Math.max(0, from - 1); f < to && f < samples.toFrame; f++)
      for (let c = 0; c < samples.channels; c++) {
        const v = samples.at(c, f);
        if (v === null) continue;
        low = Math.min(low, v);
        high = Math.max(high, v);
      }
    if (low > high) continue;
    context.fillRect(column * pixel, y(high), pixel, Math.max(pixel, y(low) - y(high)));
    if (high >= FULL_SCALE || low <= -FULL_SCALE) clipped.push(column * pixel);
  }
  context.fillStyle = clip;
  for (const x of clipped) {
    context.fillRect(x, box.y, Math.max(1, pixel), CLIP_PX);
    context.fillRect(x, box.y + box.height - CLIP_PX, Math.max(1, pixel), CLIP_PX);
  }
}
