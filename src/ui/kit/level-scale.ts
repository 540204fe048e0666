'use client';
import { useSyncExternalStore } from 'react';

/** How levels become heights: quiet ones lifted so that their shape can be read (the root of the proportion), in proportion, or in dB from −60 dBFS up. */
export type LevelScale = 'lifted' | 'linear' | 'db';

/** All scales. */
export const LEVEL_SCALES = ['lifted', 'linear', 'db'] as const satisfies readonly LevelScale[];

const KEY = 'fernmoss-level-scale';
const FLOOR_DB = -60;
const listeners = new Set<() => void>();

/** Height of a level, both as a share; `size` 1 = full scale, what is beyond stays at the top. */
export function levelHeight(size: number, scale: LevelScale): number {
  if (scale === 'lifted') return Math.min(1, Math.sqrt(size));
  if (scale === 'linear') return Math.min(1, size);
  return size <= 0 ? 0 : Math.max(0, Math.min(1, 1 - (20 * Math.log10(size)) / FLOOR_DB));
}

/** Asked by every waveform on the page: the browser's store is read once. */
let current: LevelScale | null = null;
const read = (): LevelScale => (current ??= LEVEL_SCALES.find((s) => s === window.localStorage.getItem(KEY)) ?? 'lifted');

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Chooses the scale of all waveforms, for this browser. */
export function setLevelScale(scale: LevelScale): void {
  current = scale;
  window.localStorage.setItem(KEY, scale);
  listeners.forEach((l) => l());
}

/** The scale in force. */
export const useLevelScale = (): LevelScale => useSyncExternalStore(subscribe, read, () => 'lifted');
