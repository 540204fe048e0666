import { percentile } from '../dsp';
import { PATH_PER_SECOND } from './beat-path';
import { toConsensus } from './clock';
import { fitGrid } from './steady';
import type { Stream } from './streams';

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
  const played = strengths.map((s) => s > 0 && s >= PLAYED * usual);
  const span = 8;
  let from = 0;
  const busy = (a: number, b: number): boolean =>
    played.slice(Math.max(0, a), b).filter(Boolean).length * 2 >= Math.min(span, b - a);
  while (from < beats.length && !(played[from] && busy(from, from + span))) from++;
  let to = beats.length;
  while (to > from && !(played[to - 1] && busy(to - span, to))) to--;
  return beats.slice(from, to);
}

/** A hit so near to its place on the grid belongs to it; talk and chairs lie there by chance only, s. */
const TIGHT_SECONDS = 0.012;
/** A passage that goes on on the grid has this share of its pulses played, itself or a part of it, and so many of them. */
const GOES_ON = 0.75;
const FEWEST = 4;

/** Pulses before and after those given where a session at one tempo goes on with hits between the pulses only (an introduction of off-beats); none where the tempo moves. `divides` = parts of a pulse. */
export function quietEnds(
  beats: readonly number[],
  streams: readonly Stream[],
  divides: 2 | 3,
): { readonly before: readonly number[]; readonly after: readonly number[] } {
  const clock = toConsensus(beats, streams, { rounds: 1 });
  const grid = fitGrid(
    beats.map((_, i) => i),
    clock.moments,
    clock.beats,
  );
  if (!grid) return { before: [], after: [] };
  const struck = streams.filter((s) => !s.swells && s.role !== 'line' && s.role !== 'harmony');
  const end = Math.max(...struck.map((s) => s.seconds.at(-1) ?? 0));
  const isStruck = (t: number): boolean =>
    struck.some((s) => {
      const i = s.seconds.findIndex((x) => x >= t - TIGHT_SECONDS);
      return i >= 0 && (s.seconds[i] as number) <= t + TIGHT_SECONDS;
    });
  const goesOn = (step: 1 | -1): number[] => {
    const found: number[] = [];
    let [played, kept] = [0, 0];
    for (let n = 1; ; n++) {
      const place = step > 0 ? beats.length - 1 + n : -n;
      const t = grid.offsetSeconds + place * grid.quarterSeconds;
      if (t < 0 || t > end) break;
      found.push(t);
      if (
        !Array.from({ length: divides }, (_, part) => t + (part * grid.quarterSeconds) / divides).some(
          isStruck,
        )
      )
        continue;
      if (++played >= GOES_ON * n && n >= FEWEST) kept = n;
    }
    return found.slice(0, kept);
  };
  return { before: goesOn(-1).reverse(), after: goesOn(1) };
}
