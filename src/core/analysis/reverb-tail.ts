import { median, percentile } from '../dsp';
import { SKETCH_BANDS, SKETCH_PER_SECOND, sketchHz, sketchPower, type SoundSketch } from './sketch';

/** How phrases die away. */
export interface ReverbTail {
  /** Time in which what follows a phrase falls by 60 dB, s; the median. */
  readonly seconds: number;
  /** Ends of phrases that were read. */
  readonly ends: number;
  /** Share of them that fall straight, in dB, as a room does: not to a floor of bleed or noise. */
  readonly straight: number;
}

/** Below this a voice has hardly a tail, above it noise has one of its own. */
const FROM_HZ = 250;
const TO_HZ = 8000;
/** Read between these levels below the phrase. */
const READ_DB = [14, 34] as const;
/** A phrase stops where it is last so near its peak. */
const HELD_DB = 5;
const RISE_DB = 4;
const LOUD_DB = 12;
/** A tail stands clear of the floor by this much where it is last read. */
const ABOVE_FLOOR_DB = 6;
const LEAST_FRAMES = 5;
const LEAST_ENDS = 3;
/** Rms of the residual, dB. */
const STRAIGHT_DB = 1.6;

/** Reads the ends of phrases; null when hardly any falls far enough undisturbed. After the interrupted-noise reading of ISO 3382-2 (T20 from other limits), from memory. */
export function reverbTail(sketch: SoundSketch): ReverbTail | null {
  const levels = levelsOf(sketch);
  const loud = percentile(levels, 0.95);
  const floor = percentile(levels, 0.02) + ABOVE_FLOOR_DB;
  const found: { readonly seconds: number; readonly straight: boolean }[] = [];
  for (let n = 1; n < levels.length; n++) {
    const peak = levels[n] as number;
    if (peak < loud - LOUD_DB || peak < (levels[n + 1] ?? Infinity) || peak - READ_DB[1] < floor) continue;
    const end = endOfFall(levels, n);
    if (peak - (levels[end] as number) >= READ_DB[1]) found.push(readFall(levels, n, end));
    n = Math.max(n, end - 1);
  }
  return found.length < LEAST_ENDS
    ? null
    : {
        seconds: median(found.map((f) => f.seconds)),
        ends: found.length,
        straight: found.filter((f) => f.straight).length / found.length,
      };
}

/** Level of the bands that are read, smoothed over three frames. */
function levelsOf(sketch: SoundSketch): Float32Array {
  const bands = Array.from({ length: SKETCH_BANDS }, (_, b) => b).filter(
    (b) => sketchHz(b) >= FROM_HZ && sketchHz(b) <= TO_HZ,
  );
  const powers = Float64Array.from({ length: sketch.frames }, (_, n) =>
    bands.reduce((sum, b) => sum + sketchPower(sketch, n, b), 0),
  );
  return Float32Array.from(
    powers,
    (p, n) => 10 * Math.log10(((powers[n - 1] ?? p) + p + (powers[n + 1] ?? p)) / 3 + 1e-12),
  );
}

/** Down to where something rises again. */
function endOfFall(levels: Float32Array, from: number): number {
  let end = from;
  for (let k = from + 1; k < levels.length && (levels[k] as number) <= (levels[end] as number) + RISE_DB; k++)
    if ((levels[k] as number) <= (levels[end] as number)) end = k;
  return end;
}

function readFall(
  levels: Float32Array,
  from: number,
  end: number,
): { readonly seconds: number; readonly straight: boolean } {
  const peak = levels[from] as number;
  let stop = end;
  while ((levels[stop] as number) < peak - HELD_DB) stop--;
  const down = (db: number): number => {
    let k = stop;
    while ((levels[k] as number) > peak - db) k++;
    return k;
  };
  const [first, last] = [down(READ_DB[0]), down(READ_DB[1])];
  if (last - first < LEAST_FRAMES)
    return {
      seconds: (60 * Math.max(1, last - first)) / (READ_DB[1] - READ_DB[0]) / SKETCH_PER_SECOND,
      straight: false,
    };
  const middle = (first + last) / 2;
  let [xy, xx, mean] = [0, 0, 0];
  for (let k = first; k <= last; k++) {
    xy += (k - middle) * (levels[k] as number);
    xx += (k - middle) ** 2;
    mean += (levels[k] as number) / (last - first + 1);
  }
  const slope = xy / xx;
  let left = 0;
  for (let k = first; k <= last; k++) left += ((levels[k] as number) - mean - slope * (k - middle)) ** 2;
  return {
    seconds: -60 / slope / SKETCH_PER_SECOND,
    straight: Math.sqrt(left / (last - first + 1)) <= STRAIGHT_DB,
  };
}
