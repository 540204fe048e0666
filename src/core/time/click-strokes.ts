import { pulseLengths } from './meter-map';
import type { SongMap } from './song-map';

/** How a click can sound: a short tone, struck wood, a dry tick. */
export const CLICK_SOUNDS = ['tone', 'wood', 'tick'] as const;
/** One of {@link CLICK_SOUNDS}. */
export type ClickSound = (typeof CLICK_SOUNDS)[number];
/** Into how many parts a click can divide each pulse. */
export const CLICK_PARTS = [1, 2, 3, 4] as const;
/** One of {@link CLICK_PARTS}. */
export type ClickParts = (typeof CLICK_PARTS)[number];
/** What a stroke stands for: a downbeat, a pulse, a part of a pulse. */
export type ClickStroke = 'accent' | 'pulse' | 'part';

/** One stroke of a click, s. */
export interface ClickBeat {
  readonly seconds: number;
  readonly stroke: ClickStroke;
}

const MOST_BARS = 20_000;

/** Strokes from the beginning of a bar (0, −1 … = counted in at the first bar's tempo) up to a moment, s, left out. */
export function clickStrokes(
  { tempo, meters }: SongMap,
  parts: ClickParts,
  fromBar: number,
  endSeconds: number,
): ClickBeat[] {
  const out: ClickBeat[] = [];
  for (let bar = fromBar; bar < fromBar + MOST_BARS; bar++) {
    let q = meters.barToQuarters(bar);
    if (tempo.toSeconds(q) >= endSeconds) break;
    pulseLengths(meters.meterAt(bar)).forEach((length, i) => {
      for (let k = 0; k < parts; k++) {
        const seconds = tempo.toSeconds(q + (length * k) / parts);
        if (seconds < endSeconds)
          out.push({ seconds, stroke: k > 0 ? 'part' : i === 0 ? 'accent' : 'pulse' });
      }
      q += length;
    });
  }
  return out;
}
