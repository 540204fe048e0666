import { CLICK_SOUNDS, type ClickParts, type ClickSound } from '@/core/time';
import { keptChoice } from '@/ui/kit';

/** The sounds of a click in words. */
export const CLICK_SOUND_NAMES: Readonly<Record<ClickSound, string>> = {
  tone: 'short tone',
  wood: 'struck wood',
  tick: 'dry tick',
};
/** What a click counts, in words, by the parts of a pulse. */
export const CLICK_PART_NAMES: Readonly<Record<ClickParts, string>> = {
  1: 'pulses',
  2: 'halves too',
  3: 'thirds too',
  4: 'quarters too',
};
/** Bars the click counts in. */
export const CLICK_BARS = ['0', '1', '2'] as const;
/** Kept in this browser: how the click sounds, and what it counts. */
export const clickSound = keptChoice('fernmoss.click-sound', [...CLICK_SOUNDS]);
export const clickBars = keptChoice('fernmoss.click-bars', [...CLICK_BARS]);
export const clickParts = keptChoice('fernmoss.click-parts', ['1', '2', '3', '4']);
