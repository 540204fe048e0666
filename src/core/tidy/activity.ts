import { type BandLevels, LEVEL_BANDS } from '../analysis';
import { percentile } from '../dsp';
import { bandPowers, floorOf, NO_FLOOR } from './floor';
import { type FloorKind, floorKind } from './floor-kind';
import { floorShifts, shiftTrack } from './floor-shifts';
import { bandRow, framesOf, meanOfLargest, smoothed } from './frame-math';
import { COUNTED_BANDS, type Smoothing, SPREAD_DB, STATISTIC } from './noise-figures';

/** Zeros count as silence from so many frames in a row on (100 ms). */
const ZERO_RUN = framesOf(0.1);
/** With more zeros than this between its sounds a track was gated before. */
const GATED_SHARE = 0.02;
/** Levels that tell whether something fades are means over so many frames (100 ms) of so many bands. */
const [FADING_FRAMES, FADING_BANDS] = [5, 6];
/** A sound has died away 55 dB below what is loud in a track (the level that one frame in twenty reaches), over 180 ms. */
const [FAINT, LOUD_SHARE, FAINT_FRAMES] = [10 ** -5.5, 0.95, 9];

/** The levels of a recording weighed against its own floor. */
export interface WeighedLevels {
  readonly frames: number;
  readonly levels: BandLevels;
  /** 1 = part of a run of zeros. */
  readonly zero: Uint8Array;
  /** Cut by a gate, or by hand, before it came: whatever is not zero was meant to stay. */
  readonly isGated: boolean;
  /** What the floor is that what is wanted stands out of; null = none is heard, and nothing but zeros can go. */
  readonly floorKind: FloorKind | null;
  readonly powers: Float32Array;
  /** Power of the steady noise, band by band and frame by frame. */
  readonly floor: Float32Array;
  /** How far what is heard stands out of that. */
  readonly activity: Activity;
  /** Level over the floor by which one sees whether a sound still fades, dB. */
  readonly fading: Float32Array;
  /** 1 = whatever stands out there is weaker than the floor as a whole, and has died away long since. */
  readonly faint: Uint8Array;
  /** Frames in the middle of windows in which the floor is heard alone. */
  readonly alone: readonly number[];
}

/** How far each frame stands out of what is not wanted, in standard deviations of noise. */
export interface Activity {
  readonly raw: Float32Array;
  /** Over 60 ms. */
  readonly short: Float32Array;
  /** Over 180 ms. */
  readonly long: Float32Array;
}

/** Finds floor and shifts of a recording, and what stands out of it. */
export function weigh(levels: BandLevels): WeighedLevels {
  const zero = zeroRuns(levels);
  const isGated = gapShare(zero) > GATED_SHARE;
  const powers = bandPowers(levels);
  const { floor, alone } = isGated
    ? noFloor(powers.length)
    : movingFloor(
        powers,
        zero.map((z) => 1 - z),
      );
  const shares = sharesOver(powers, floor);
  const kind = isGated ? null : floorKind(levels, powers, floor);
  return {
    frames: levels.frames,
    levels,
    zero,
    isGated,
    floorKind: kind,
    powers,
    floor,
    alone,
    faint: faintFrames(powers, floor),
    activity: activityOf(shares),
    fading: fadingLevel(shares),
  };
}

const noFloor = (length: number): Pick<WeighedLevels, 'floor' | 'alone'> => ({
  floor: new Float32Array(length).fill(NO_FLOOR),
  alone: [],
});

/** The floor where it stands: its level moves when an amp is switched on or a preamp is turned. */
function movingFloor(powers: Float32Array, heard: Uint8Array): Pick<WeighedLevels, 'floor' | 'alone'> {
  const frames = heard.length;
  const own = floorOf(powers, heard);
  const floor = new Float32Array(powers.length);
  for (let b = 0; b < LEVEL_BANDS; b++) bandRow(floor, b).fill(own[b] as number);
  const shifts = floorShifts(sharesOver(powers, floor), heard);
  const up = shiftTrack(shifts, frames).map((db) => 10 ** (db / 10));
  for (let b = 0; b < LEVEL_BANDS; b++) {
    const row = bandRow(floor, b);
    for (let n = 0; n < frames; n++) row[n] = (row[n] as number) * (up[n] as number);
  }
  return { floor, alone: shifts.at };
}

function zeroRuns({ frames, total }: BandLevels): Uint8Array {
  const out = new Uint8Array(frames);
  for (let n = 0; n < frames; n++) {
    if (total[n] !== 0) continue;
    let end = n;
    while (end < frames && total[end] === 0) end++;
    if (end - n >= ZERO_RUN) out.fill(1, n, end);
    n = end;
  }
  return out;
}

/** Share of zeros between the first sound and the last: those around it are only where the recording was laid. */
function gapShare(zero: Uint8Array): number {
  const [first, last] = [zero.indexOf(0), zero.lastIndexOf(0)];
  if (first < 0) return 0;
  let count = 0;
  for (let n = first; n <= last; n++) count += zero[n] as number;
  return count / (last - first + 1);
}

/** Frames in which the ring of a sound is not heard any more, though one band may still show it. */
function faintFrames(powers: Float32Array, floor: Float32Array): Uint8Array {
  const frames = powers.length / LEVEL_BANDS;
  const [all, still] = [new Float32Array(frames), new Float32Array(frames)];
  for (let b = 0; b < LEVEL_BANDS; b++) {
    const [row, low] = [bandRow(powers, b), bandRow(floor, b)];
    for (let n = 0; n < frames; n++) {
      all[n] = (all[n] as number) + (row[n] as number);
      still[n] = (still[n] as number) + (low[n] as number);
    }
  }
  const soft = smoothed(all, FAINT_FRAMES);
  const least = percentile(soft, LOUD_SHARE) * FAINT;
  return Uint8Array.from(soft, (p, n) => {
    const own = p - (still[n] as number);
    return own < (still[n] as number) && own < least ? 1 : 0;
  });
}

/** Powers as shares of what is not wanted. */
export function sharesOver(powers: Float32Array, unwanted: Float32Array): Float32Array {
  const out = new Float32Array(powers.length);
  for (let k = 0; k < powers.length; k++) out[k] = (powers[k] as number) / (unwanted[k] as number);
  return out;
}

/** Weighs every frame by its loudest bands. */
export function activityOf(shares: Float32Array): Activity {
  return { raw: statistic(shares, 1), short: statistic(shares, 3), long: statistic(shares, 9) };
}

function statistic(shares: Float32Array, width: Smoothing): Float32Array {
  const rows = bandRows(shares, width);
  const out = meanOfLargest(rows, SCALES[width], COUNTED_BANDS);
  const { mean, spread } = STATISTIC[width];
  for (let n = 0; n < out.length; n++) out[n] = ((out[n] as number) - mean) / spread;
  return out;
}

/** By smoothing and band: noise spreads by as much in all of them. */
const SCALES: Readonly<Record<Smoothing, readonly number[]>> = {
  1: SPREAD_DB[1].map((db) => 1 / db),
  3: SPREAD_DB[3].map((db) => 1 / db),
  9: SPREAD_DB[9].map((db) => 1 / db),
};
const ALIKE = new Float32Array(LEVEL_BANDS).fill(1);

const fadingLevel = (shares: Float32Array): Float32Array =>
  meanOfLargest(bandRows(shares, FADING_FRAMES), ALIKE, FADING_BANDS);

/** Band by band, means over `width` frames. */
const bandRows = (shares: Float32Array, width: number): Float32Array[] =>
  Array.from({ length: LEVEL_BANDS }, (_, b) =>
    width === 1 ? bandRow(shares, b) : smoothed(bandRow(shares, b), width),
  );
