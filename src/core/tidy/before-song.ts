import { LEVELS_PER_SECOND } from '../analysis';
import type { TidyProposal } from './propose';
import { DOUBTFUL, type TidyPiece } from './reasons';
import type { Span } from './spans';

/** Among tracks, those recorded together as one, the song begins where this share of them has begun; the rest may hear what comes before it as well. */
const BEGUN_SHARE = 0.25;
/** Fewest that tell. */
const LEAST_TRACKS = 2;
/** So much stays before the song, frames (60 ms). */
const PAD = Math.round(0.06 * LEVELS_PER_SECOND);

/** What is heard before the first note: where, and in how many tracks. */
export interface BeforeSong extends Span {
  readonly tracks: number;
}

const isDoubtful = (p: TidyPiece): boolean => p.keeps && p.confidence < DOUBTFUL;

/** Where somebody talks or counts in before the song, in frames of 20 ms; null where nothing speaks for it. */
export function beforeSong(proposals: readonly TidyProposal[]): BeforeSong | null {
  const playing = proposals.filter((p) => p.pieces.some((x) => x.keeps) && p.nothingBecause !== 'reference');
  const units = new Map(playing.map((p) => [p.group ?? p.id, p]));
  const begins = [...units.values()]
    .flatMap((p) => p.pieces.find((x) => x.keeps && !isDoubtful(x))?.from ?? [])
    .sort((a, b) => a - b);
  const begin = begins[Math.floor(BEGUN_SHARE * begins.length)];
  if (begin === undefined || begins.length < LEAST_TRACKS) return null;
  const to = Math.max(0, begin - PAD);
  const before = playing.flatMap((p) => {
    const found = p.pieces.filter((x) => isDoubtful(x) && x.to <= begin && x.from < to);
    return found.length > 0 ? [found] : [];
  });
  if (before.length === 0) return null;
  return { from: Math.min(...before.flat().map((x) => x.from)), to, tracks: before.length };
}
