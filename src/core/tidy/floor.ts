import { type BandLevels, LEVEL_BANDS, LEVEL_POWERS } from '../analysis';
import { percentile } from '../dsp';
import { bandRow, framesOf, smoothed } from './frame-math';
import { FLOOR_BIAS_DB } from './noise-figures';

/** Minima are taken over so many frames (1.5 s) of what is smoothed over 180 ms. */
const SMOOTH_FRAMES = 9;
const MINIMUM_FRAMES = framesOf(1.5);
/** The floor lies at the level that this share of the minima keeps below. */
const LOW_SHARE = 0.1;
/** Frames less than so much above it are the floor itself. */
const FLOOR_WIDTH = 10 ** 0.4;
/** Below this there is no floor to speak of; also what stands for one in a track that was gated, power of a band. */
export const NO_FLOOR = 10 ** -12.2;

/** Powers of a recording, band by band. */
export function bandPowers({ frames, bands }: BandLevels): Float32Array {
  const out = new Float32Array(frames * LEVEL_BANDS);
  for (let b = 0; b < LEVEL_BANDS; b++)
    for (let n = 0; n < frames; n++)
      out[b * frames + n] = LEVEL_POWERS[bands[n * LEVEL_BANDS + b] as number] as number;
  return out;
}

/**
 * Power of the steady noise in each band, from frames that count only (`heard`: 1).
 * Source: minimum statistics after Martin 2001, from memory; the widths are own.
 */
export function floorOf(powers: Float32Array, heard: Uint8Array): Float64Array {
  return Float64Array.from({ length: LEVEL_BANDS }, (_, b) =>
    Math.max(NO_FLOOR, bandFloor(bandRow(powers, b), heard) / 10 ** ((FLOOR_BIAS_DB[b] as number) / 10)),
  );
}

function heardOnly(row: Float32Array, heard: Uint8Array): Float32Array {
  const out = new Float32Array(row.length);
  let count = 0;
  for (let n = 0; n < row.length; n++) if (heard[n] === 1) out[count++] = row[n] as number;
  return out.subarray(0, count);
}

function bandFloor(row: Float32Array, heard: Uint8Array): number {
  const kept = heardOnly(row, heard);
  if (kept.length === 0) return 0;
  const soft = smoothed(kept, SMOOTH_FRAMES);
  const minima: number[] = [];
  for (let from = 0; from < soft.length; from += MINIMUM_FRAMES) {
    // What is left at the end says little of its own.
    if (minima.length > 0 && soft.length - from < MINIMUM_FRAMES / 2) break;
    let least = Infinity;
    for (let n = from; n < Math.min(soft.length, from + MINIMUM_FRAMES); n++)
      least = Math.min(least, soft[n] as number);
    minima.push(least);
  }
  const low = percentile(minima, LOW_SHARE) * FLOOR_WIDTH;
  let [sum, count] = [0, 0];
  for (let n = 0; n < soft.length; n++)
    if ((soft[n] as number) <= low) {
      sum += kept[n] as number;
      count++;
    }
  return count > 0 ? sum / count : 0;
}
