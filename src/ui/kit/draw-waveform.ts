/** Peaks of a recording as the page holds them. */
export interface PeakView {
  readonly framesPerEntry: number;
  readonly minMax: Int16Array;
  /** Rate the frames count at, Hz. */
  readonly sampleRateHz: number;
}

/**
 * Draws the stretch `[fromSeconds, toSeconds)` of a waveform into a box; the centre line always, so that silence is seen.
 * Quiet material is lifted (square root) so that its shape can be read.
 */
export function drawWaveform(
  context: CanvasRenderingContext2D,
  peaks: PeakView,
  box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number },
  range: { readonly fromSeconds: number; readonly toSeconds: number },
  color: string,
): void {
  const middle = box.y + box.height / 2;
  const lift = (v: number): number => Math.sign(v) * Math.sqrt(Math.abs(v) / 32768) * (box.height / 2 - 1);
  const entries = peaks.minMax.length / 2;
  const entriesPerSecond = peaks.sampleRateHz / peaks.framesPerEntry;
  const secondsPerPixel = (range.toSeconds - range.fromSeconds) / box.width;
  context.fillStyle = color;
  for (let x = 0; x < box.width; x++) {
    const from = Math.floor((range.fromSeconds + x * secondsPerPixel) * entriesPerSecond);
    const to = Math.max(from + 1, Math.floor((range.fromSeconds + (x + 1) * secondsPerPixel) * entriesPerSecond));
    if (to <= 0 || from >= entries) continue;
    let low = 32767;
    let high = -32768;
    for (let e = Math.max(0, from); e < Math.min(entries, to); e++) {
      low = Math.min(low, peaks.minMax[2 * e] as number);
      high = Math.max(high, peaks.minMax[2 * e + 1] as number);
    }
    const top = middle - lift(Math.max(0, high));
    const bottom = middle - lift(Math.min(0, low));
    context.fillRect(box.x + x, top, 1, Math.max(1, bottom - top));
  }
}
