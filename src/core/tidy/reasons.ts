import type { WeighedLevels } from './activity';
import { between, type Span } from './spans';

/** Why a piece stays or goes. */
export const TIDY_REASONS = [
  'sound',
  'silence',
  'hum',
  'noise',
  'breath',
  'talk',
  'count-in',
  'spill',
  'bleed',
  'head',
  'tail',
] as const;
export type TidyReason = (typeof TIDY_REASONS)[number];

/** A stretch of a track, in frames of 20 ms. */
export interface TidyPiece extends Span {
  readonly keeps: boolean;
  readonly reason: TidyReason;
  /** 0–1. */
  readonly confidence: number;
}

/** Pieces of a track in order, each with its reason. */
export function reasonsOf(
  weighed: WeighedLevels,
  kept: readonly Span[],
  _spill: Float32Array | null,
): TidyPiece[] {
  const { frames } = weighed;
  const removed = between(kept, frames);
  return [
    ...kept.map((s): TidyPiece => ({ ...s, keeps: true, reason: 'sound', confidence: 0.9 })),
    ...removed.map((s): TidyPiece => ({
      ...s,
      keeps: false,
      reason: s.from === 0 ? 'head' : s.to === frames ? 'tail' : 'noise',
      confidence: 0.9,
    })),
  ].sort((a, b) => a.from - b.from);
}
