/** The database gives keys back in another order than they came. */
const inOrder = (_key: string, value: unknown): unknown =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value;

/** Whether two plain values say the same; the order of keys does not count. */
export const same = (a: unknown, b: unknown): boolean =>
  a === b || JSON.stringify(a, inOrder) === JSON.stringify(b, inOrder);

/** A value as two people met it, as one of them left it, and as the other did. */
export interface ThreeWays<T> {
  readonly base: T;
  readonly theirs: T;
  readonly mine: T;
}

/** What both sides made of a value where that fits together; null = they contradict each other. */
export function mergeValue<T>({ base, theirs, mine }: ThreeWays<T>): { readonly value: T } | null {
  if (same(base, theirs) || same(theirs, mine)) return { value: mine };
  return same(base, mine) ? { value: theirs } : null;
}

/** Sets of words: what one side put in or took out holds for both. In the order of theirs, what is new of mine behind. */
export function mergeSets({ base, theirs, mine }: ThreeWays<readonly string[]>): readonly string[] {
  const gone = new Set(base.filter((x) => !mine.includes(x)));
  return [
    ...theirs.filter((x) => !gone.has(x)),
    ...mine.filter((x) => !base.includes(x) && !theirs.includes(x)),
  ];
}
