import { fadeGain } from '@/core/arrange';
import type { TrackPeaks } from '@/ui/client';
import { cssColor, deviceRatio, drawWaveform, levelHeight, type LevelScale } from '@/ui/kit';
import type { ShownFade, ShownPiece } from './tidy-rows';

/** What is drawn of a row. */
export interface TidyPicture {
  readonly wave: TrackPeaks | null;
  readonly pieces: readonly ShownPiece[];
  readonly fades: readonly ShownFade[];
  /** The piece in hand; null = none of this row. */
  readonly inHand: ShownPiece | null;
  /** Of the session. */
  readonly rateHz: number;
  readonly color: string;
  /** dBFS; null = none is set by hand. */
  readonly thresholdDb: number | null;
}

interface Place {
  readonly width: number;
  readonly height: number;
  /** Of the song, seconds from the left end to the right. */
  readonly length: number;
  readonly scale: LevelScale;
}

/** Space above and below a waveform, px. */
const MARGIN = 3;
/** How pale the waveform of what goes is, and how far apart its hatching, px. */
const [PALE, HATCH_PX] = [0.3, 7];
/** A fade that is narrower is not drawn; steps of its line, px. */
const [LEAST_FADE_PX, FADE_STEPS] = [4, 16];

/** The waveform of a track: what stays in full ink, what goes pale under hatching, what is doubtful outlined, fades as lines, a threshold as a dotted line. */
export function drawTidy(context: CanvasRenderingContext2D, picture: TidyPicture, place: Place): void {
  const { wave, pieces, rateHz, color, inHand } = picture;
  const { width, height, length } = place;
  const x = (frames: number): number => (frames / rateHz / length) * width;
  const rect = (p: ShownPiece): [number, number, number, number] => {
    const [from, to] = [x(p.fromFrames), x(p.toFrames)];
    return [from, 0, Math.max(0.5, to - from), height];
  };
  const gone = pieces.filter((p) => !p.keeps);
  const draw = (shown: readonly ShownPiece[], alpha: number): void => {
    if (!wave || shown.length === 0) return;
    context.save();
    context.beginPath();
    for (const p of shown) context.rect(...rect(p));
    context.clip();
    context.globalAlpha = alpha;
    drawWaveform(
      context,
      wave.peaks,
      { x: 0, y: MARGIN, width, height: height - 2 * MARGIN },
      { fromSeconds: -wave.startSeconds, toSeconds: length - wave.startSeconds },
      { color, scale: place.scale, clip: cssColor('--fm-clay'), pixel: 1 / deviceRatio() },
    );
    context.restore();
  };
  draw(
    pieces.filter((p) => p.keeps),
    1,
  );
  draw(gone, PALE);
  for (const p of gone) hatch(context, rect(p));
  drawThreshold(context, picture, place);
  for (const fade of picture.fades) drawFade(context, fade, [x(fade.fromFrames), x(fade.toFrames)], height);
  // Pieces that meet are told apart by a line.
  context.fillStyle = cssColor('--fm-ink');
  for (const [i, p] of pieces.entries())
    if (p.keeps && pieces[i + 1]?.keeps) context.fillRect(Math.round(x(p.toFrames)), 0, 1, height);
  context.lineWidth = 1.5;
  for (const p of pieces) {
    if (!p.isDoubtful && p !== inHand) continue;
    const [from, , wide] = rect(p);
    context.strokeStyle = cssColor(p === inHand ? '--fm-lake' : '--fm-clay');
    context.lineWidth = p === inHand ? 2 : 1.5;
    context.strokeRect(from + 1, 1.5, Math.max(2, wide - 2), height - 3);
  }
}

function hatch(
  context: CanvasRenderingContext2D,
  [left, top, width, height]: readonly [number, number, number, number],
): void {
  context.save();
  context.beginPath();
  context.rect(left, top, width, height);
  context.clip();
  context.strokeStyle = cssColor('--fm-lines');
  context.lineWidth = 1;
  context.beginPath();
  // Lines of one pattern, whatever the piece: neighbours look alike.
  const first = Math.floor((left - height) / HATCH_PX) * HATCH_PX;
  for (let at = first; at < left + width; at += HATCH_PX) {
    context.moveTo(at, height);
    context.lineTo(at + height, 0);
  }
  context.stroke();
  context.restore();
}

/** The gain over a fade as a line; two that cross over cross in the picture too. */
function drawFade(
  context: CanvasRenderingContext2D,
  { isIn, shape }: ShownFade,
  [from, to]: readonly [number, number],
  height: number,
): void {
  if (to - from < LEAST_FADE_PX) return;
  context.strokeStyle = cssColor('--fm-ink');
  context.lineWidth = 1.25;
  context.beginPath();
  for (let k = 0; k <= FADE_STEPS; k++) {
    const share = k / FADE_STEPS;
    const gain = fadeGain(shape, isIn ? share : 1 - share);
    context.lineTo(from + share * (to - from), height - MARGIN - gain * (height - 2 * MARGIN));
  }
  context.stroke();
}

function drawThreshold(
  context: CanvasRenderingContext2D,
  { thresholdDb }: TidyPicture,
  { width, height, scale }: Place,
): void {
  if (thresholdDb === null) return;
  const up = levelHeight(10 ** (thresholdDb / 20), scale) * (height / 2 - MARGIN - 1);
  context.save();
  context.strokeStyle = cssColor('--fm-lake');
  context.setLineDash([2, 3]);
  context.beginPath();
  for (const y of [height / 2 - up, height / 2 + up]) {
    context.moveTo(0, Math.round(y) + 0.5);
    context.lineTo(width, Math.round(y) + 0.5);
  }
  context.stroke();
  context.restore();
}
