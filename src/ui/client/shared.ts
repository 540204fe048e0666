type Plain = Readonly<Record<string, unknown>>;

const isPlain = (x: unknown): x is Plain => typeof x === 'object' && x !== null && !Array.isArray(x);

/** A newer JSON value that keeps every part of the older one that did not change: what depends on a part is not worked out or drawn again. */
export function shared<T>(before: unknown, after: T): T {
  if (before === after) return after;
  if (Array.isArray(before) && Array.isArray(after)) {
    const parts = after.map((x, i) => shared<unknown>(before[i], x));
    return (before.length === parts.length && parts.every((x, i) => x === before[i]) ? before : parts) as T;
  }
  if (isPlain(before) && isPlain(after)) {
    const keys = Object.keys(after);
    const parts = Object.fromEntries(keys.map((k) => [k, shared(before[k], after[k])]));
    return (
      keys.length === Object.keys(before).length && keys.every((k) => k in before && parts[k] === before[k])
        ? before
        : parts
    ) as T;
  }
  return after;
}
