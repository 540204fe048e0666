import { type BandLevels, LEVEL_BANDS, LEVELS_PER_SECOND } from '../analysis';

/** Where a recording lies in what is looked at together. */
export interface LevelsPlace {
  /** Of its first sample from the common beginning, s; 0 or more. */
  readonly startSeconds: number;
  /** How much faster it passes than it was recorded; 1 = as it was. */
  readonly speed: number;
}

/** Levels of a recording from the common beginning on: silence before it starts, frames where they fall, to half of one (10 ms). */
export function placedLevels(levels: BandLevels, { startSeconds, speed }: LevelsPlace): BandLevels {
  const before = Math.round(startSeconds * LEVELS_PER_SECOND);
  if (before === 0 && speed === 1) return levels;
  const own = Math.round(levels.frames / speed);
  const frames = before + own;
  const [bands, total] = [new Uint8Array(frames * LEVEL_BANDS), new Uint8Array(frames)];
  for (let n = 0; n < own; n++) {
    const from = Math.min(levels.frames - 1, Math.floor((n + 0.5) * speed));
    bands.set(
      levels.bands.subarray(from * LEVEL_BANDS, (from + 1) * LEVEL_BANDS),
      (before + n) * LEVEL_BANDS,
    );
    total[before + n] = levels.total[from] as number;
  }
  return { frames, bands, total };
}
