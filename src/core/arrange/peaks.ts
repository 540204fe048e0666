import type { PeakLevel } from '../analysis';
import { gainAt } from './gain';
import { endOf, type Piece } from './pieces';

/** Waveform of a sound, and the rate at which its frames pass. */
export interface SoundPeaks extends PeakLevel {
  readonly sampleRateHz: number;
}

/** A waveform that begins at a frame of the session. */
export interface ArrangedPeaks extends SoundPeaks {
  readonly startFrames: number;
}

const FULL = 32767;
const held = (x: number): number => Math.max(-FULL - 1, Math.min(FULL, Math.round(x)));

/**
 * The waveform of what pieces come to, an entry for each `framesPerEntry` frames of the session: pieces that cross over
 * add up, those that follow each other in one entry stand beside each other. What is not there yet is left out.
 */
export function arrangedPeaks<S>(
  pieces: readonly Piece<S>[],
  peaksOf: (sound: S) => SoundPeaks | null | undefined,
  { sampleRateHz, framesPerEntry }: { readonly sampleRateHz: number; readonly framesPerEntry: number },
): ArrangedPeaks {
  const first = Math.floor(Math.min(...pieces.map((p) => p.fromFrames)) / framesPerEntry);
  const count = pieces.length === 0 ? 0 : Math.max(0, Math.ceil(endOf(pieces) / framesPerEntry) - first);
  const low = new Float64Array(count);
  const high = new Float64Array(count);
  /** Up to which frame of the session an entry is filled. */
  const filledTo = new Float64Array(count).fill(-Infinity);
  for (const piece of pieces) {
    const peaks = peaksOf(piece.sound);
    if (!peaks) continue;
    const begin = Math.floor(piece.fromFrames / framesPerEntry);
    for (let entry = begin; entry * framesPerEntry < piece.toFrames; entry++) {
      const from = Math.max(piece.fromFrames, entry * framesPerEntry);
      const to = Math.min(piece.toFrames, (entry + 1) * framesPerEntry);
      const own = rangeOf(peaks, piece, from, to, sampleRateHz);
      const i = entry - first;
      const crosses = from < (filledTo[i] as number);
      low[i] = crosses ? (low[i] as number) + own.low : Math.min(low[i] as number, own.low);
      high[i] = crosses ? (high[i] as number) + own.high : Math.max(high[i] as number, own.high);
      filledTo[i] = to;
    }
  }
  const minMax = new Int16Array(2 * count);
  for (let i = 0; i < count; i++) {
    minMax[2 * i] = held(low[i] as number);
    minMax[2 * i + 1] = held(high[i] as number);
  }
  return { framesPerEntry, minMax, sampleRateHz, startFrames: first * framesPerEntry };
}

/** Lowest and highest of a piece between two frames of the session, at its gain in their middle. */
function rangeOf<S>(
  { minMax, framesPerEntry, sampleRateHz }: SoundPeaks,
  piece: Piece<S>,
  from: number,
  to: number,
  sessionHz: number,
): { readonly low: number; readonly high: number } {
  const entryOf = (frame: number): number =>
    ((piece.soundFrames + frame - piece.fromFrames) * sampleRateHz) / (sessionHz * framesPerEntry);
  let [low, high] = [0, 0];
  const last = Math.min(minMax.length / 2, Math.ceil(entryOf(to)));
  for (let e = Math.max(0, Math.floor(entryOf(from))); e < last; e++) {
    low = Math.min(low, minMax[2 * e] as number);
    high = Math.max(high, minMax[2 * e + 1] as number);
  }
  const gain = gainAt(piece, Math.floor((from + to) / 2));
  return gain < 0 ? { low: high * gain, high: low * gain } : { low: low * gain, high: high * gain };
}
