import type { NameReading } from './reading';

/** Two recordings that are the left and right of one source, by their places in what was given. */
export interface StereoPair {
  readonly left: number;
  readonly right: number;
}

/**
 * Pairs of mono files: names that say the same but for the side, and lengths that match.
 * `lengths` in any one unit, one a name. Three of a kind, or a side that comes twice, make no pair. Common practice, no source.
 */
export function findPairs(readings: readonly NameReading[], lengths: readonly number[]): StereoPair[] {
  const groups = new Map<string, { left: number[]; right: number[] }>();
  readings.forEach((r, i) => {
    if (r.side !== 'left' && r.side !== 'right') return;
    const key = JSON.stringify([
      r.family,
      r.part,
      r.role,
      r.position,
      r.number,
      r.take,
      lengths[i],
      r.part === null ? r.input.replace(/[lr]/gi, '') : '',
    ]);
    const group = groups.get(key) ?? { left: [], right: [] };
    group[r.side].push(i);
    groups.set(key, group);
  });
  return [...groups.values()]
    .flatMap(({ left, right }) =>
      left.length === 1 && right.length === 1 ? [{ left: left[0] as number, right: right[0] as number }] : [],
    )
    .sort((a, b) => a.left - b.left);
}
