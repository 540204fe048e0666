import type { TrackPeaks } from '@/ui/client';
import { cssColor, deviceRatio, drawWaveform, figureFont, type LevelScale, type WaveWindow } from '@/ui/kit';

/** A stretch of a row, s. */
export interface ShownStretch {
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/** What is drawn of a track or of one of its takes. */
export interface TakePicture {
  readonly wave: TrackPeaks | null;
  readonly color: string;
  /** Where it sounds: in full ink; elsewhere pale. Null = all of it does. */
  readonly sounding: readonly ShownStretch[] | null;
  /** Numbers of the takes that sound, at the beginnings of their pieces. */
  readonly numbers: readonly { readonly atSeconds: number; readonly text: string }[];
  /** Where phrases meet, s. */
  readonly edges: readonly number[];
  /** The phrase in hand. */
  readonly inHand: ShownStretch | null;
  /** What is being drawn over with the pointer. */
  readonly drawn: ShownStretch | null;
}

/** How pale what does not sound is; space above and below, px. */
const [PALE, MARGIN] = [0.28, 3];

/** The waveform of a row with what sounds of it. */
export function drawTake(
  context: CanvasRenderingContext2D,
  picture: TakePicture,
  {
    width,
    height,
    window,
    scale,
  }: {
    readonly width: number;
    readonly height: number;
    readonly window: WaveWindow;
    readonly scale: LevelScale;
  },
): void {
  const x = (seconds: number): number => ((seconds - window.from) / (window.to - window.from)) * width;
  const wave = (alpha: number, within: readonly ShownStretch[] | null): void => {
    if (!picture.wave) return;
    context.save();
    if (within) {
      context.beginPath();
      for (const s of within)
        context.rect(x(s.fromSeconds), 0, Math.max(0.5, x(s.toSeconds) - x(s.fromSeconds)), height);
      context.clip();
    }
    context.globalAlpha = alpha;
    const start = picture.wave.startSeconds;
    drawWaveform(
      context,
      picture.wave.peaks,
      { x: 0, y: MARGIN, width, height: height - 2 * MARGIN },
      { fromSeconds: window.from - start, toSeconds: window.to - start },
      { color: picture.color, scale, clip: cssColor('--fm-clay'), pixel: 1 / deviceRatio() },
    );
    context.restore();
  };
  if (picture.sounding) wave(PALE, null);
  wave(1, picture.sounding);
  context.fillStyle = cssColor('--fm-lines');
  for (const edge of picture.edges) context.fillRect(Math.round(x(edge)), 0, 1, height);
  drawNumbers(context, picture, { x, width, height });
  for (const [stretch, color] of [
    [picture.inHand, '--fm-lake'],
    [picture.drawn, '--fm-moss'],
  ] as const) {
    if (!stretch) continue;
    context.strokeStyle = cssColor(color);
    context.lineWidth = 2;
    const from = x(stretch.fromSeconds);
    context.strokeRect(from + 1, 1, Math.max(2, x(stretch.toSeconds) - from - 2), height - 2);
  }
}

/** A line where a piece begins, and which take it is, as far as there is room. */
function drawNumbers(
  context: CanvasRenderingContext2D,
  { numbers }: TakePicture,
  {
    x,
    width,
    height,
  }: { readonly x: (seconds: number) => number; readonly width: number; readonly height: number },
): void {
  context.font = figureFont(11, 600);
  context.textBaseline = 'top';
  numbers.forEach(({ atSeconds, text }, i) => {
    const next = numbers[i + 1];
    const end = next ? x(next.atSeconds) : width;
    const left = Math.max(0, x(atSeconds));
    if (end < 0 || left > width) return;
    context.fillStyle = cssColor('--fm-ink');
    if (x(atSeconds) >= 0) context.fillRect(Math.round(left), 0, 1, height);
    const wide = context.measureText(text).width;
    if (end - left < wide + 5) return;
    context.fillStyle = cssColor('--fm-ground');
    context.globalAlpha = 0.85;
    context.fillRect(left + 2, 1, wide + 4, 13);
    context.globalAlpha = 1;
    context.fillStyle = cssColor('--fm-ink');
    context.fillText(text, left + 4, 2);
  });
}
