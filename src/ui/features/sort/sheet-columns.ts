/** Widths of the columns before and after the waveform, px; the waveform takes the rest. */
export const BEFORE_WAVE = 30 + 10 + 26 + 232 + 150;
const AFTER_WAVE = 62 + 30;

/** Width of the waveform in a sheet so wide, px. */
export const waveWidthIn = (sheetWidth: number): number =>
  Math.max(60, sheetWidth - BEFORE_WAVE - AFTER_WAVE);
