import { gainToDb } from '../units';

/** How much of each end is looked at. */
export const EDGE_SECONDS = 0.2;

/** −46 dBFS and −30 dB of the recording's own peak: less is noise that was there anyway. */
const LOUD = 0.005;
const LOUD_SHARE = 0.032;
/** −40 dBFS: a steady sound this loud did not begin by itself. */
const STEADY = 0.01;

const rms = (x: Float32Array): number => Math.sqrt(x.reduce((s, v) => s + v * v, 0) / Math.max(1, x.length));
const largest = (x: Float32Array): number => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0);

/**
 * Level at which a recording begins in the middle of a sound, dBFS; null when it begins as sounds do. `head` are its first {@link EDGE_SECONDS} without its offset; for its end give them reversed.
 * A jump at the very first samples, or sound as loud at once as it goes on. A hit that begins at the first sample starts from zero and dies away: it is none.
 */
export function abruptEdge(
  head: Float32Array,
  peak: number,
  sampleRateHz: number,
  kind: 'start' | 'end',
): number | null {
  const ms = (n: number): number => Math.max(1, Math.round((n * sampleRateHz) / 1000));
  const jump = largest(head.subarray(0, 3));
  if (jump >= LOUD && jump >= LOUD_SHARE * peak) return gainToDb(jump);
  const first = rms(head.subarray(0, ms(2)));
  if (first < STEADY || first < LOUD_SHARE * peak) return null;
  const soon = rms(head.subarray(ms(2), ms(50)));
  const later = rms(head.subarray(ms(50), ms(200)));
  const steady = first > 0.5 * soon && first < 2 * soon && later > 0.5 * soon;
  // Before the end a sound may well grow; at the beginning one that grows began.
  return steady && (kind === 'end' || later < 1.5 * soon) ? gainToDb(first) : null;
}
