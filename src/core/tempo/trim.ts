import { percentile } from '../dsp';
import { PATH_PER_SECOND } from './beat-path';

/** Attacks weaker than this share of the song's usual ones are talk, chairs or decay, not the band (own; made sessions with talk). */
const PLAYED = 0.3;

/**
 * Cuts pulses before the music begins and after it ends: the pulse at each end must be played, and so must half of the eight there.
 * `curve` must not be levelled over time, or talk would count as much as the band.
 */
export function trimBeats(beats: readonly number[], curve: Float32Array): number[] {
  const strengths = beats.map((t) => {
    const centre = Math.round(t * PATH_PER_SECOND);
    let peak = 0;
    for (let k = centre - 4; k <= centre + 4; k++) peak = Math.max(peak, curve[k] ?? 0);
    return peak;
  });
  const usual = percentile(strengths, 0.6);
  const heard = strengths.map((s) => s > 0 && s >= PLAYED * usual);
  const span = 8;
  let from = 0;
  const busy = (a: number, b: number): boolean => heard.slice(Math.max(0, a), b).filter(Boolean).length * 2 >= Math.min(span, b - a);
  while (from < beats.length && !(heard[from] && busy(from, from + span))) from++;
  let to = beats.length;
  while (to > from && !(heard[to - 1] && busy(to - span, to))) to--;
  return beats.slice(from, to);
}
