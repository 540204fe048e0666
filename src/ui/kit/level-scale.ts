'use client';
import { keptChoice } from './kept-choice';

/** How levels become heights: quiet ones lifted so that their shape can be read (the root of the proportion), in proportion, or in dB from −60 dBFS up. */
export type LevelScale = 'lifted' | 'linear' | 'db';

/** All scales. */
export const LEVEL_SCALES = ['lifted', 'linear', 'db'] as const satisfies readonly LevelScale[];

const FLOOR_DB = -60;

/** Height of a level, both as a share; `size` 1 = full scale, what is beyond stays at the top. */
export function levelHeight(size: number, scale: LevelScale): number {
  if (scale === 'lifted') return Math.min(1, Math.sqrt(size));
  if (scale === 'linear') return Math.min(1, size);
  return size <= 0 ? 0 : Math.max(0, Math.min(1, 1 - (20 * Math.log10(size)) / FLOOR_DB));
}

const kept = keptChoice('fernmoss-level-scale', LEVEL_SCALES);

/** Chooses the scale of all waveforms, for this browser. */
export const setLevelScale = kept.set;

/** The scale in force. */
export const useLevelScale = kept.use;
