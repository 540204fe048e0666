import { type BandLevels, LEVEL_BANDS, LEVEL_POWERS, levelStep } from '../analysis';
import { median } from '../dsp';
import { bandRow } from './frame-math';

/** Only frames in which the reference plays its own source say how loud it comes over: so near to its 99th percentile in all, and to its loudest in the band, in steps of half a dB. */
const [OWN_STEPS, OWN_BAND_STEPS] = [30, 50];
const LOUD_SHARE = 0.99;
/** The least that comes over: this share of those frames lies below. */
const LEAST_SHARE = 0.1;
/** A band is well supported where half of its frames lie within so many steps of that; no band comes over so many dB stronger than the middle of those. */
const [SUPPORT_STEPS, CAP_DB] = [12, 3];
const LEAST_FRAMES = 40;
/** What is foretold is taken so much louder, dB: ways through a room change. */
const MARGIN_DB = 6;
/** A reference is late by this many frames at most. */
const REACH = 1;
/** What spills in stays so far below what is wanted of a track, dB; else the track plays along with the reference and nothing can be told. */
const BELOW_WANTED_DB = 12;
/** Steps a difference of two levels can have. */
const STEPS = 256;

/** How strong another recording comes over into one, dB by band. */
export type SpillPath = readonly number[];

/** Measures how a reference is heard in a recording; null where too little says so, or where the recording plays along with it. */
export function spillPath(track: BandLevels, reference: BandLevels): SpillPath | null {
  const frames = Math.min(track.frames, reference.frames);
  const own = percentileStep(reference.total, LOUD_SHARE) - OWN_STEPS;
  const heard: number[] = [];
  for (let n = 0; n < frames; n++) if ((reference.total[n] as number) >= own && own > 0) heard.push(n);
  const bands = Array.from({ length: LEVEL_BANDS }, (_, b) => bandGain(track, reference, heard, b));
  const supported = bands.flatMap((g) => (g !== null && g.share >= 0.5 ? [g.gainDb] : []));
  if (supported.length === 0) return null;
  const usual = median(supported);
  // In a band that is loud for a moment only (an attack) it comes over as it does in the others.
  const path = bands.map((g) => (g === null ? usual : Math.min(g.gainDb, usual + CAP_DB)));
  return staysBelow(track, reference, path) ? path : null;
}

interface BandGain {
  readonly gainDb: number;
  /** Share of the frames near to it. */
  readonly share: number;
}

function bandGain(
  track: BandLevels,
  reference: BandLevels,
  heard: readonly number[],
  band: number,
): BandGain | null {
  let loudest = 0;
  for (const n of heard) loudest = Math.max(loudest, reference.bands[n * LEVEL_BANDS + band] as number);
  const counts = new Uint32Array(2 * STEPS);
  let count = 0;
  for (const n of heard) {
    const y = reference.bands[n * LEVEL_BANDS + band] as number;
    const x = track.bands[n * LEVEL_BANDS + band] as number;
    if (y < loudest - OWN_BAND_STEPS || y === 0 || x === 0) continue;
    const at = x - y + STEPS;
    counts[at] = (counts[at] as number) + 1;
    count++;
  }
  if (count < LEAST_FRAMES) return null;
  const at = stepBelow(counts, LEAST_SHARE * count);
  let near = 0;
  for (let k = Math.max(0, at - SUPPORT_STEPS); k <= at + SUPPORT_STEPS; k++) near += counts[k] ?? 0;
  return { gainDb: (at - STEPS) / 2, share: near / count };
}

/** The step below which so many lie. */
function stepBelow(counts: Uint32Array, most: number): number {
  let [step, sum] = [0, counts[0] as number];
  while (sum < most && step < counts.length - 1) sum += counts[++step] as number;
  return step;
}

function percentileStep(steps: Uint8Array, share: number): number {
  const counts = new Uint32Array(STEPS);
  for (const s of steps) counts[s] = (counts[s] as number) + 1;
  return stepBelow(counts, share * steps.length);
}

/** Whether what is foretold at the reference's loudest stays well below the track's own loudest. */
function staysBelow(track: BandLevels, reference: BandLevels, path: SpillPath): boolean {
  const [loud, other] = [
    percentileStep(track.total, LOUD_SHARE),
    percentileStep(reference.total, LOUD_SHARE),
  ];
  // Weighed by what the reference has in each band while it is loud.
  let [power, spilled] = [0, 0];
  for (let n = 0; n < reference.frames; n++) {
    if ((reference.total[n] as number) < other - 6) continue;
    for (let b = 0; b < LEVEL_BANDS; b++) {
      const p = LEVEL_POWERS[reference.bands[n * LEVEL_BANDS + b] as number] as number;
      power += p;
      spilled += p * 10 ** ((path[b] as number) / 10);
    }
  }
  if (power === 0) return false;
  return 10 * Math.log10(spilled / power) + (other - loud) / 2 <= -BELOW_WANTED_DB;
}

/** Adds what a reference is foretold to spill into a recording, power by band and frame. */
export function addSpill(into: Float32Array, reference: BandLevels, path: SpillPath): void {
  const frames = into.length / LEVEL_BANDS;
  const most = Math.min(frames, reference.frames);
  for (let b = 0; b < LEVEL_BANDS; b++) {
    const gain = 10 ** (((path[b] as number) + MARGIN_DB) / 10);
    if (gain === 0) continue;
    const row = bandRow(into, b);
    for (let n = 0; n < most; n++) {
      let loudest = 0;
      for (let k = Math.max(0, n - REACH); k <= Math.min(most - 1, n + REACH); k++)
        loudest = Math.max(loudest, reference.bands[k * LEVEL_BANDS + b] as number);
      row[n] = (row[n] as number) + gain * (LEVEL_POWERS[loudest] as number);
    }
  }
}

/** Several recordings as one: their powers added. */
export class LevelSum {
  private readonly frames: number;
  private readonly bands: Float64Array;
  private readonly total: Float64Array;

  constructor(all: readonly BandLevels[]) {
    this.frames = Math.max(0, ...all.map((l) => l.frames));
    this.bands = new Float64Array(this.frames * LEVEL_BANDS);
    this.total = new Float64Array(this.frames);
    for (const l of all) {
      addPowers(this.bands, l.bands, 1);
      addPowers(this.total, l.total, 1);
    }
  }

  /** The sum of all but these. */
  without(some: readonly BandLevels[]): BandLevels {
    const rest = (sum: Float64Array, of: (l: BandLevels) => Uint8Array): Uint8Array => {
      const powers = sum.slice();
      for (const l of some) addPowers(powers, of(l), -1);
      const out = new Uint8Array(powers.length);
      // What is left of rounding, 150 dB under what was taken away, lies below the lowest step.
      for (let i = 0; i < out.length; i++)
        out[i] = (powers[i] as number) < 1e-14 ? 0 : levelStep(powers[i] as number);
      return out;
    };
    return {
      frames: this.frames,
      bands: rest(this.bands, (l) => l.bands),
      total: rest(this.total, (l) => l.total),
    };
  }
}

function addPowers(into: Float64Array, steps: Uint8Array, times: number): void {
  for (let i = 0; i < steps.length; i++)
    into[i] = (into[i] as number) + times * (LEVEL_POWERS[steps[i] as number] as number);
}
