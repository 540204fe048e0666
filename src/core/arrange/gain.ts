import type { Fade, Piece } from './pieces';

/** What gain needs of a piece. */
export type Faded = Pick<Piece<unknown>, 'gain' | 'clipFromFrames' | 'clipToFrames' | 'fadeIn' | 'fadeOut'>;

/** Gain `share` of the way into a fade, 0 … 1. Equal gain: two of them add up to 1; equal power: their squares do (common practice, no source). */
export const fadeGain = (shape: Fade['shape'], share: number): number =>
  shape === 'equal-gain' ? share : Math.sin((share * Math.PI) / 2);

/** How far a frame lies in a fade that begins at its `index` 0, taken in the frame's middle, so that it reads the same from both ends; 1 = past it. */
const shareOf = (index: number, frames: number): number =>
  index >= frames ? 1 : Math.max(0, (index + 0.5) / frames);

/** Linear gain of a piece at a frame of the session. */
export const gainAt = (piece: Faded, frame: number): number =>
  piece.gain *
  fadeGain(piece.fadeIn.shape, shareOf(frame - piece.clipFromFrames, piece.fadeIn.frames)) *
  fadeGain(piece.fadeOut.shape, shareOf(piece.clipToFrames - 1 - frame, piece.fadeOut.frames));

/** Gain of a piece over frames `[from, to)` of the session where no fade reaches into them; null = it changes there. */
export const steadyGain = (piece: Faded, from: number, to: number): number | null =>
  from >= piece.clipFromFrames + piece.fadeIn.frames && to <= piece.clipToFrames - piece.fadeOut.frames
    ? piece.gain
    : null;

/** Adds samples of a piece, which begin at frame `begin` of the session, to `out`, which begins at `outBegin`. Where nothing is to be done to them they go over as they are. */
export function addPiece(
  out: Float32Array | Float64Array,
  outBegin: number,
  piece: Faded,
  samples: Float32Array,
  begin: number,
): void {
  const end = Math.min(begin + samples.length, outBegin + out.length);
  const fadesIn = piece.clipFromFrames + piece.fadeIn.frames;
  const fadesOut = piece.clipToFrames - piece.fadeOut.frames;
  for (let frame = Math.max(begin, outBegin); frame < end; frame++) {
    const gain = frame < fadesIn || frame >= fadesOut ? gainAt(piece, frame) : piece.gain;
    const i = frame - outBegin;
    out[i] = (out[i] as number) + (samples[frame - begin] as number) * gain;
  }
}
