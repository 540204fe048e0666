import { median } from '../dsp';
import type { SongMap } from '../time';

/** How off-beats lie between pulses. */
export interface Swing {
  /** Place of the off-beat, share of the way from a pulse to the next: a half = straight, two thirds = triplets. */
  readonly share: number;
  /** Length of the first part against the second: 1 = straight, 2 = triplets. */
  readonly ratio: number;
  /** Off-beats it was read from. */
  readonly hits: number;
}

/** Where off-beats are looked for, share of a pulse; wider would take sixteenths for them. */
const EARLIEST = 0.42;
const LATEST = 0.72;
const FEWEST_HITS = 8;

/** Where off-beats lie in the middle of all pulses (median); `parts` = 1 for eighths in a quarter pulse, 2 for sixteenths in its halves. Null with too few. `seconds` rising. */
export function swingOf(map: SongMap, seconds: readonly number[], parts: 1 | 2): Swing | null {
  const shares: number[] = [];
  for (const t of seconds) {
    const quarters = map.tempo.toQuarters(t);
    const { bar } = map.meters.toBar(quarters);
    const pulses = [...map.meters.pulsesIn(bar), map.meters.barToQuarters(bar + 1)];
    const i = pulses.findLastIndex((q) => q <= quarters);
    const [from, to] = [pulses[i], pulses[i + 1]];
    if (from === undefined || to === undefined) continue;
    const x = ((quarters - from) / (to - from)) * parts;
    const share = x - Math.floor(x);
    if (share >= EARLIEST && share <= LATEST) shares.push(share);
  }
  if (shares.length < FEWEST_HITS) return null;
  const share = median(shares);
  return { share, ratio: share / (1 - share), hits: shares.length };
}
