import { CLICK_SOUNDS } from '@/core/render';
import { keptChoice } from '@/ui/kit';

/** Into how many parts the click divides each pulse. */
export const CLICK_PARTS = ['1', '2', '3', '4'] as const;
/** Bars the click counts in. */
export const CLICK_BARS = ['0', '1', '2'] as const;
/** Kept in this browser: how the click sounds, and what it counts. */
export const clickSound = keptChoice('fernmoss.click-sound', [...CLICK_SOUNDS]);
export const clickBars = keptChoice('fernmoss.click-bars', [...CLICK_BARS]);
export const clickParts = keptChoice('fernmoss.click-parts', [...CLICK_PARTS]);
