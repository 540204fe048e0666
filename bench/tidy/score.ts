import { BandLevelAnalysis, type BandLevels } from '../../src/core/analysis';
import type { TidyProposal } from '../../src/core/tidy';
import { dbToGain } from '../../src/core/units';
import { type MadeTrack, RATE, SECONDS } from './made-tracks';

export const FRAMES = 50 * SECONDS;
const FRAME = RATE / 50;

export function levelsOf(samples: Float32Array): BandLevels {
  const analysis = new BandLevelAnalysis(RATE, 1);
  for (let at = 0; at < samples.length; at += 65_536) analysis.push([samples.subarray(at, at + 65_536)]);
  return analysis.finish();
}

const rms = (x: Float32Array, n: number): number => {
  let sum = 0;
  for (let i = n * FRAME; i < (n + 1) * FRAME; i++) sum += (x[i] as number) ** 2;
  return Math.sqrt(sum / FRAME);
};

/** 1 wanted, 0 removable, −1 not counted, frame by frame. */
export function truthOf(track: MadeTrack): Int8Array {
  const floor = track.floorDbfs === null ? 1e-5 : dbToGain(track.floorDbfs);
  return Int8Array.from({ length: FRAMES }, (_, n) => {
    const at = (n + 0.5) / 50;
    const own = rms(track.clean, n);
    const [wanted, hidden] = [own > floor * dbToGain(6), rms(track.spill, n) > own * dbToGain(10)];
    if (wanted) return hidden ? -1 : 1;
    return track.uncounted.some(([a, b]) => at >= a && at <= b) ? -1 : 0;
  });
}

/** Frames an ideal cut would remove: truth with pads and no short gaps. */
export function oracle(truth: Int8Array): Uint8Array {
  const keep = new Uint8Array(FRAMES);
  for (let n = 0; n < FRAMES; n++)
    if (truth[n] === 1) keep.fill(1, Math.max(0, n - 3), Math.min(FRAMES, n + 7));
  for (let n = 0; n < FRAMES; n++) {
    if (keep[n]) continue;
    let end = n;
    while (end < FRAMES && !keep[end]) end++;
    if (end - n < 20 && n > 0 && end < FRAMES) keep.fill(1, n, end);
    n = end;
  }
  return keep.map((k) => 1 - k);
}

export interface Score {
  readonly wanted: number;
  readonly lost: number;
  readonly onsets: number;
  readonly cut: number;
  readonly found: number;
  readonly oracle: number;
  readonly cuts: number;
  readonly floorOff: number | null;
}

export function scoreOf(track: MadeTrack, p: TidyProposal): Score {
  const truth = truthOf(track);
  const gone = new Uint8Array(FRAMES);
  for (const piece of p.pieces) if (!piece.keeps) gone.fill(1, piece.from, Math.min(FRAMES, piece.to));
  const count = (holds: (n: number) => boolean): number => {
    let k = 0;
    for (let n = 0; n < FRAMES; n++) if (holds(n)) k++;
    return k;
  };
  // A note that a gate took before, or that never stood out of the noise, cannot be cut any more.
  const onsets = track.onsets
    .map((s) => Math.floor(50 * s))
    .filter((n) => [1, 2].some((k) => truth[n + k] === 1));
  const removable = count((n) => truth[n] === 0);
  const best = oracle(truth);
  return {
    wanted: count((n) => truth[n] === 1),
    lost: count((n) => truth[n] === 1 && gone[n] === 1),
    onsets: onsets.length,
    cut: onsets.filter((n) => [0, 1, 2].some((k) => gone[n + k] === 1 && rms(track.samples, n + k) > 0))
      .length,
    found: removable > 0 ? count((n) => truth[n] === 0 && gone[n] === 1) / removable : 1,
    oracle: removable > 0 ? count((n) => truth[n] === 0 && best[n] === 1) / removable : 1,
    cuts: p.pieces.filter((x) => !x.keeps).length,
    floorOff: track.floorDbfs === null || p.floorDbfs === null ? null : p.floorDbfs - track.floorDbfs,
  };
}
