/** Numbers that come one by one, kept in a typed array's own size: a plain list takes two to four times as much. */
export interface Growing<T> {
  push(value: number): void;
  /** All of them, in order. */
  toArray(): T;
}

const PART = 1 << 16;

/** A growing list of 32 bit floats or small integers; `make` gives an empty array of a length. */
export function growing<T extends Float32Array | Int16Array | Uint8Array>(
  make: (length: number) => T,
): Growing<T> {
  const parts: T[] = [];
  let last = make(PART);
  let filled = 0;
  return {
    push(value) {
      if (filled === PART) {
        parts.push(last);
        last = make(PART);
        filled = 0;
      }
      last[filled++] = value;
    },
    toArray() {
      const all = make(parts.length * PART + filled);
      parts.forEach((part, i) => all.set(part, i * PART));
      all.set(last.subarray(0, filled), parts.length * PART);
      return all;
    },
  };
}
