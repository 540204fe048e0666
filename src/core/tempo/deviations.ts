import { median } from '../dsp';
import type { SongMap } from '../time';

/** A hit against the grid. */
export interface Deviation {
  /** When it sounds. */
  readonly seconds: number;
  /** How much later than its place of the grid, s; negative = earlier. */
  readonly late: number;
}

/** How near a hit must be to belong to a place of the grid. */
interface Near {
  /** Of the way to the next place. */
  readonly share: number;
  readonly seconds: number;
}

const NEAR: Near = { share: 0.3, seconds: 0.08 };

/** How far hits are from the nearest of the places that divide each pulse of a map into `parts`; those between two places are left out. `seconds` rising. */
export function deviationsOf(
  map: SongMap,
  seconds: readonly number[],
  parts: number,
  near: Near = NEAR,
): Deviation[] {
  const out: Deviation[] = [];
  if (seconds.length === 0) return out;
  const last = (seconds.at(-1) as number) + 1;
  const places: number[] = [];
  // From the bar before the first hit on, place by place.
  for (let bar = map.meters.toBar(map.tempo.toQuarters(seconds[0] as number)).bar - 1; ; bar++) {
    const pulses = [...map.meters.pulsesIn(bar), map.meters.barToQuarters(bar + 1)];
    if (map.tempo.toSeconds(pulses[0] as number) > last) break;
    for (let i = 0; i + 1 < pulses.length; i++)
      for (let k = 0; k < parts; k++)
        places.push(
          map.tempo.toSeconds(
            (pulses[i] as number) + (((pulses[i + 1] as number) - (pulses[i] as number)) * k) / parts,
          ),
        );
  }
  let i = 0;
  for (const t of seconds) {
    while (
      i + 1 < places.length &&
      Math.abs((places[i + 1] as number) - t) <= Math.abs((places[i] as number) - t)
    )
      i++;
    const late = t - (places[i] as number);
    const way = Math.abs((places[i + (late >= 0 ? 1 : -1)] ?? Infinity) - (places[i] as number));
    if (Math.abs(late) <= Math.min(near.seconds, near.share * way)) out.push({ seconds: t, late });
  }
  return out;
}

/** How a player stands to the grid. */
export interface Timing {
  /** Hits that belong to a place of the grid. */
  readonly hits: number;
  /** In the middle, s; positive = late. */
  readonly late: number;
  /** Around that, s: what a normal spread of the middle half would be. */
  readonly spread: number;
}

/** The middle and the spread of deviations (median, and 1.4826 times the median distance from it); null for none. */
export function timingOf(deviations: readonly Deviation[]): Timing | null {
  if (deviations.length === 0) return null;
  const late = median(deviations.map((d) => d.late));
  return {
    hits: deviations.length,
    late,
    spread: 1.4826 * median(deviations.map((d) => Math.abs(d.late - late))),
  };
}
