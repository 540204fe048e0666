/** Where the waveform lies in a sheet, px. The style sheet lays the columns out (`.fm-sheet` in `fernmoss.css`, by the same figures), so that the first page needs no measuring; pictures are drawn where this says. */
export interface SheetColumns {
  /** From the left edge to the waveform. */
  readonly before: number;
  readonly wave: number;
}

/** Tick, colour, picture; family and part; level, mark. */
const [BESIDE_NAME, KIND, AFTER_WAVE] = [30 + 10 + 26, 150, 62 + 30];
const [LEAST_NAME, MOST_NAME, LEAST_WAVE] = [232, 480, 60];
/** Of the room a wide window offers, names take this share, the waveform the rest. */
const SHARE_OF_NAMES = 0.3;
/** In a sheet narrower than this the family has no column. */
const WITH_KIND = 620;

/** Columns of a sheet so wide. */
export function sheetColumns(sheetWidth: number): SheetColumns {
  const kind = sheetWidth < WITH_KIND ? 0 : KIND;
  const free = sheetWidth - BESIDE_NAME - LEAST_NAME - KIND - AFTER_WAVE;
  // Up to here the waveform gets all: its shape is what one looks for first.
  const beyond = Math.max(0, free - 2 * LEAST_NAME);
  const name = Math.min(MOST_NAME, LEAST_NAME + SHARE_OF_NAMES * beyond);
  const before = BESIDE_NAME + name + kind;
  return { before, wave: Math.max(LEAST_WAVE, sheetWidth - before - AFTER_WAVE) };
}
