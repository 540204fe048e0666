import { type SessionState, soundTracks, type Track, tracksInOrder } from '../session';
import type { SongMap } from '../time';
import { deviationsOf, timingOf } from './deviations';
import type { TimekeeperChoice } from './reading';

/** A few bars, and how what is played in them lies to the grid. */
export interface GridStretch {
  /** Bars of the map, both included. */
  readonly fromBar: number;
  readonly toBar: number;
  /** `agrees`, `drifts` (the hits lie beside the pulses), `loose` (they keep to no pulse). */
  readonly state: 'agrees' | 'drifts' | 'loose';
  /** Middle of the hits after the nearest pulse, s; positive = late. */
  readonly lateSeconds: number;
}

const STRETCH_BARS = 4;
/** With fewer hits a stretch says nothing. */
const FEWEST_HITS = 6;
/** So far from a pulse a hit is still about it: sixteenths and triplets are not. */
const NEAR = { share: 0.2, seconds: 0.25 };
/** A band around a click stays within 30 ms of it, lean of the players included (common practice, no source). */
const DRIFT_SECONDS = 0.04;
/** Of a pulse; hits at any place spread by 1.4826 × 0.1 within `NEAR`, players who are on the grid by a third of that. */
const LOOSE_SPREAD = 0.1;
/** Less of all hits at pulses than this: none of the usual divisions gives so few. */
const LOOSE_SHARE = 0.1;

/**
 * Measures hits against the grid that is handed over, four bars at a time: not how sure somebody was of the grid, but
 * whether it is where the music is. `seconds` rising; stretches without enough hits are left out.
 */
export function gridAgreement(map: SongMap, seconds: readonly number[]): GridStretch[] {
  const out: GridStretch[] = [];
  const last = seconds.at(-1);
  if (last === undefined) return out;
  let at = 0;
  for (let bar = 1; ; bar += STRETCH_BARS) {
    const from = map.tempo.toSeconds(map.meters.barToQuarters(bar));
    const to = map.tempo.toSeconds(map.meters.barToQuarters(bar + STRETCH_BARS));
    if (from > last) return out;
    while (at < seconds.length && (seconds[at] as number) < from) at++;
    let end = at;
    while (end < seconds.length && (seconds[end] as number) < to) end++;
    const hits = seconds.slice(at, end);
    at = end;
    if (hits.length < FEWEST_HITS) continue;
    const near = deviationsOf(map, hits, 1, NEAR);
    const timing = timingOf(near);
    const pulses = Array.from({ length: STRETCH_BARS }, (_, i) => map.meters.pulsesIn(bar + i).length);
    const pulseSeconds = (to - from) / pulses.reduce((a, b) => a + b, 0);
    const isLoose =
      near.length < LOOSE_SHARE * hits.length ||
      (near.length >= FEWEST_HITS && timing !== null && timing.spread > LOOSE_SPREAD * pulseSeconds);
    out.push({
      fromBar: bar,
      toBar: bar + STRETCH_BARS - 1,
      state: isLoose
        ? 'loose'
        : timing !== null && Math.abs(timing.late) > DRIFT_SECONDS
          ? 'drifts'
          : 'agrees',
      lateSeconds: timing?.late ?? 0,
    });
  }
}

/** The tracks that keep the time: as a person chose, else as the detection did, those that say most first; before anything was found all. */
export function timekeepersOf(
  session: SessionState,
  found: readonly TimekeeperChoice[] | null,
): readonly Track[] {
  if (!session.timekeepers && !found) return soundTracks(session);
  const tracks = tracksInOrder(session);
  const ids =
    session.timekeepers ??
    (found ?? [])
      .filter((t) => t.chosen)
      .sort((a, b) => b.weight - a.weight)
      .map((t) => t.id);
  return ids.flatMap((id) => tracks.filter((t) => t.id === id));
}
