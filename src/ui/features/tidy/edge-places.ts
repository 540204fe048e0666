import type { SongMap } from '@/core/time';
import { snapQuarters } from '@/core/time';
import type { TidyProposal } from '@/core/tidy';
import { LEVELS_PER_SECOND } from '@/core/analysis';

/** Two places nearer than this are one, s. */
const SAME_SECONDS = 0.005;

/** The nearest of places, in order or not; the place itself where there are none. */
export const nearestPlace = (at: number, places: readonly number[]): number =>
  places.reduce((best, p) => (Math.abs(p - at) < Math.abs(best - at) ? p : best), places[0] ?? at);

/** The next of places after one, or before it; null = there is none. */
export function nextPlace(at: number, places: readonly number[], by: -1 | 1, rateHz: number): number | null {
  const least = SAME_SECONDS * rateHz;
  const beyond = places.filter((p) => by * (p - at) > least);
  return beyond.length === 0 ? null : beyond.reduce((best, p) => (by * (p - best) < 0 ? p : best));
}

/** Frames of the pulse of a song nearest to a frame; itself without a map. */
export function pulseNear(at: number, map: SongMap | null, rateHz: number): number {
  if (!map) return at;
  const quarters = snapQuarters(map.meters, map.tempo.toQuarters(at / rateHz), { to: 'pulse' });
  return Math.round(map.tempo.toSeconds(quarters) * rateHz);
}

/** Frames at which something begins in a track, or silence begins or ends in it: hits, and edges of what was found in its levels. */
export function placesIn(
  { hits, proposal }: { readonly hits: readonly number[]; readonly proposal: TidyProposal | null },
  { originFrames, rateHz }: { readonly originFrames: number; readonly rateHz: number },
): number[] {
  const edges = proposal?.pieces.slice(1).map((p) => originFrames + (p.from * rateHz) / LEVELS_PER_SECOND);
  return [...hits.map((s) => s * rateHz), ...(edges ?? [])].map(Math.round).sort((a, b) => a - b);
}
