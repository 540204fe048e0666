import type { PeakView } from './draw-waveform';

/** Something that sounds, and where it begins. */
export interface Sounding {
  readonly peaks: PeakView;
  readonly startSeconds: number;
}

/**
 * How loud several sound together, column by column of the stretch from 0 to `lengthSeconds`: root of the sum of the squared
 * heights of their peaks, 1 = full scale. Peaks do not say how sounds add up from sample to sample; those of different
 * players add up in power.
 */
export function sumShape(sources: readonly Sounding[], columns: number, lengthSeconds: number): Float32Array {
  const shape = new Float32Array(columns);
  for (const { peaks, startSeconds } of sources) {
    const { minMax, framesPerEntry, sampleRateHz } = peaks;
    const perColumn = ((lengthSeconds / columns) * sampleRateHz) / framesPerEntry;
    const skip = (startSeconds * sampleRateHz) / framesPerEntry;
    for (let x = 0; x < columns; x++) {
      let top = 0;
      const first = Math.floor(x * perColumn - skip);
      for (
        let e = Math.max(0, first);
        e < Math.max(first + 1, Math.floor((x + 1) * perColumn - skip)) && 2 * e < minMax.length;
        e++
      )
        top = Math.max(top, (minMax[2 * e + 1] as number) - (minMax[2 * e] as number));
      shape[x] = (shape[x] as number) + (top / 65_536) ** 2;
    }
  }
  return shape.map(Math.sqrt);
}
