import { LEVELS_PER_SECOND } from '@/core/analysis';
import type { TidyChoice } from '@/core/tidy';
import type { ShownPiece } from './tidy-rows';

/** An edge between two pieces, by where it stands; frames of the session. */
export type Edge = number;

/** The edge nearest to a place, no farther than `reach` frames; null = none. The ends of a track are none. */
export function edgeNear(pieces: readonly ShownPiece[], at: number, reach: number): Edge | null {
  const edges = pieces.slice(1).map((p) => p.fromFrames);
  const best = edges.reduce<Edge | null>(
    (found, e) => (found === null || Math.abs(e - at) < Math.abs(found - at) ? e : found),
    null,
  );
  return best !== null && Math.abs(best - at) <= reach ? best : null;
}

/** Pieces with one edge put elsewhere, no farther than over the whole of a neighbour; the same list where there is no such edge. */
export function withEdge(pieces: readonly ShownPiece[], edge: Edge, to: number): readonly ShownPiece[] {
  const i = pieces.findIndex((p) => p.fromFrames === edge);
  const [before, behind] = [pieces[i - 1], pieces[i]];
  if (!before || !behind) return pieces;
  const at = Math.max(before.fromFrames, Math.min(behind.toFrames, Math.round(to)));
  return [
    ...pieces.slice(0, i - 1),
    { ...before, toFrames: at },
    { ...behind, fromFrames: at },
    ...pieces.slice(i + 1),
  ].filter((p) => p.toFrames > p.fromFrames);
}

/** What pulling an edge decides of a proposal: the stretch it passed is as the piece that grew. Null = it did not move. */
export function choiceOfEdge(
  pieces: readonly ShownPiece[],
  edge: Edge,
  {
    to,
    originFrames,
    rateHz,
  }: { readonly to: number; readonly originFrames: number; readonly rateHz: number },
): TidyChoice | null {
  const i = pieces.findIndex((p) => p.fromFrames === edge);
  const [before, behind] = [pieces[i - 1], pieces[i]];
  if (!before?.span || !behind?.span) return null;
  const at = Math.round(((to - originFrames) * LEVELS_PER_SECOND) / rateHz);
  const frame = Math.max(before.span.from, Math.min(behind.span.to, at));
  const old = behind.span.from;
  if (frame === old) return null;
  return frame > old
    ? { from: old, to: frame, keeps: before.keeps }
    : { from: frame, to: old, keeps: behind.keeps };
}
