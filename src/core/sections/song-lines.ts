import type { SongMap } from '../time';

/** Bar lines of a song, s, and what the first bar between them is called inside of the map. */
export interface SongLines {
  readonly seconds: readonly number[];
  /** Inner number of the first bar; null where there is no map, and lines are laid by the clock. */
  readonly firstBar: number | null;
}

/** Without a map sections are found on a grid of so many seconds. */
const CLOCK_SECONDS = 2;
/** More bars than this belong to no song: a map that says so is at fault. */
const MOST_BARS = 20_000;

/** The bar lines of a map from bar 1 on until a song ends, s; without a map every two seconds. */
export function songLines(map: SongMap | null, seconds: number): SongLines {
  if (map === null)
    return {
      seconds: Array.from({ length: Math.floor(seconds / CLOCK_SECONDS) + 1 }, (_, i) => i * CLOCK_SECONDS),
      firstBar: null,
    };
  const at = (bar: number): number => map.tempo.toSeconds(map.meters.barToQuarters(bar));
  let first = 1;
  while (at(first + 1) <= 0 && first < MOST_BARS) first++;
  const lines = [at(first)];
  for (let bar = first + 1; bar - first < MOST_BARS; bar++) {
    lines.push(at(bar));
    if (at(bar) >= seconds) break;
  }
  return { seconds: lines, firstBar: first };
}
