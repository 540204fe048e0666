import { generateNKeysBetween } from 'fractional-indexing';

/** Something that stands among its like. */
export interface Ordered {
  readonly id: string;
  /** Missing = it has no place yet. */
  readonly orderKey?: string | undefined;
}

/** Whether one stands before another; two that were put at one place at once stand in the order of their ids. */
export const byOrder = (a: Required<Ordered>, b: Required<Ordered>): number =>
  a.orderKey < b.orderKey ? -1 : a.orderKey > b.orderKey ? 1 : a.id < b.id ? -1 : Number(a.id > b.id);

const isBefore = (a: Ordered, b: Ordered): boolean =>
  byOrder(a as Required<Ordered>, b as Required<Ordered>) < 0;

/** Indices of the longest run of things that stand in their order already (patience sorting); the others are to be moved. */
function standing(list: readonly Ordered[]): Set<number> {
  const ends: number[] = [];
  const before = new Map<number, number | undefined>();
  list.forEach((item, i) => {
    if (item.orderKey === undefined) return;
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (isBefore(list[ends[middle] as number] as Ordered, item)) low = middle + 1;
      else high = middle;
    }
    before.set(i, ends[low - 1]);
    ends[low] = i;
  });
  const kept = new Set<number>();
  for (let at = ends.at(-1); at !== undefined; at = before.get(at)) kept.add(at);
  return kept;
}

/** Keys grow by a character with every few things put in at one place; from this length on all get new ones. */
const LONGEST_KEY = 48;

/** Keys under which things stand in the order of `list`; as many as can be keep the one they have. */
export function keysInOrder(list: readonly Ordered[]): string[] {
  const kept = standing(list);
  const keys: string[] = [];
  let last: string | null = null;
  for (let i = 0; i < list.length;) {
    const own = list[i]?.orderKey;
    if (kept.has(i) && own !== undefined) {
      keys.push((last = own));
      i++;
      continue;
    }
    let end = i;
    while (end < list.length && !kept.has(end)) end++;
    // Nothing fits between two of one key: those behind it get another.
    while (end < list.length && last !== null && (list[end]?.orderKey as string) <= last) end++;
    const made = generateNKeysBetween(last, list[end]?.orderKey ?? null, end - i);
    keys.push(...made);
    last = keys.at(-1) as string;
    i = end;
  }
  return keys.some((key) => key.length > LONGEST_KEY) ? generateNKeysBetween(null, null, list.length) : keys;
}
