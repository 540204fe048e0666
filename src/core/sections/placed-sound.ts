import { CHROMA_PER_SECOND, PITCH_CLASSES, SKETCH_BANDS, SKETCH_PER_SECOND } from '../analysis';
import type { HeardPiece, SectionTrack } from './section-track';

/** What a track sounds like along the song, from second 0 on: steps of the sketch by band, 50 frames a second, and pitch classes, 10 entries a second. */
export interface PlacedSound {
  readonly levels: Uint8Array;
  readonly chroma: Float32Array;
}

/** Pieces of a track laid where they sound; past the end of the song nothing is kept. */
export function placedSound({ pieces }: SectionTrack, seconds: number): PlacedSound {
  const [only] = pieces;
  if (pieces.length === 1 && only?.atSeconds === 0 && only.fromSeconds === undefined && !only.speed)
    return { levels: only.sketch.levels, chroma: only.chroma };
  const levels = new Uint8Array(Math.ceil(seconds * SKETCH_PER_SECOND) * SKETCH_BANDS);
  const chroma = new Float32Array(Math.ceil(seconds * CHROMA_PER_SECOND) * PITCH_CLASSES);
  for (const piece of pieces) {
    lay(piece, piece.sketch.levels, levels, { perSecond: SKETCH_PER_SECOND, width: SKETCH_BANDS });
    lay(piece, piece.chroma, chroma, { perSecond: CHROMA_PER_SECOND, width: PITCH_CLASSES });
  }
  return { levels, chroma };
}

/** Frames of a piece at their place; where two overlap the stronger stands. */
function lay<T extends Uint8Array | Float32Array>(
  { atSeconds, speed = 1, fromSeconds = -Infinity, toSeconds = Infinity }: HeardPiece,
  from: T,
  to: T,
  { perSecond, width }: { readonly perSecond: number; readonly width: number },
): void {
  const first = Math.max(0, Math.round(Math.max(fromSeconds, atSeconds) * perSecond));
  const last = Math.min(to.length / width, Math.round(toSeconds * perSecond));
  for (let n = first; n < last; n++) {
    const own = Math.round((n - atSeconds * perSecond) * speed) * width;
    if (own >= from.length) break;
    for (let k = 0; k < width; k++)
      to[n * width + k] = Math.max(to[n * width + k] as number, from[Math.max(0, own) + k] as number);
  }
}
