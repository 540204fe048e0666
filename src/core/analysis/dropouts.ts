import type { Run } from './channel-scan';
import type { Recent } from './recent';

/** Rows of zeros longer than this are pauses. */
const LONGEST_SECONDS = 0.2;
/** What lies next to a gap, and the sound around it. */
const NEAR_SECONDS = 0.0005;
const WIDE_SECONDS = 0.01;
/** −46 dBFS: quieter sound stops and starts at zero by itself. */
const LOUD = 0.005;
/** A fade of a few milliseconds leaves little of the sound next to the gap, on either side. A cut leaves much on one at least; the other may just cross zero. */
const CUT_SHARE = 0.3;
const OTHER_SHARE = 0.04;

/** Frames that must be known before and behind a row of zeros to judge it. */
export const reach = (sampleRateHz: number): number => Math.ceil(WIDE_SECONDS * sampleRateHz);

/** The longest row of zeros that can be a dropout, frames. */
export const longestGap = (sampleRateHz: number): number => Math.ceil(LONGEST_SECONDS * sampleRateHz);

const largest = (x: Float32Array): number => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

/** Whether the sound breaks off at a row of zeros and comes back behind it as if nothing had been: a gap in the recording, not a pause. */
export function isDropout(run: Run, recent: Recent, sampleRateHz: number): boolean {
  const wide = reach(sampleRateHz);
  const near = Math.max(4, Math.round(NEAR_SECONDS * sampleRateHz));
  const end = run.start + run.frames;
  const before = recent.read(run.start - wide, run.start);
  const after = recent.read(end, end + wide);
  if (run.frames > longestGap(sampleRateHz) || before.length < near || after.length < near) return false;
  const left = (sound: Float32Array, edge: Float32Array): number =>
    largest(sound) >= LOUD ? largest(edge) / largest(sound) : 0;
  const shares = [left(before, before.subarray(before.length - near)), left(after, after.subarray(0, near))];
  return Math.max(...shares) >= CUT_SHARE && Math.min(...shares) >= OTHER_SHARE;
}
