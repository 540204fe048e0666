'use client';
import { useSyncExternalStore } from 'react';

/** A choice of one, kept in this browser. */
export interface KeptChoice<T extends string> {
  /** What is chosen; the first of the list until something is. */
  readonly use: () => T;
  readonly set: (value: T) => void;
}

/** A choice among `of`, kept under a key; its first entry holds until something is chosen, `onServer` where a page is drawn before the browser has it. Asked by much on a page: the browser's store is read once. */
export function keptChoice<T extends string>(
  key: string,
  of: readonly [T, ...T[]],
  onServer = of[0],
): KeptChoice<T> {
  const listeners = new Set<() => void>();
  let current: T | null = null;
  const read = (): T => (current ??= of.find((s) => s === window.localStorage.getItem(key)) ?? of[0]);
  const subscribe = (listener: () => void): (() => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  return {
    use: () => useSyncExternalStore(subscribe, read, () => onServer),
    set(value) {
      current = value;
      window.localStorage.setItem(key, value);
      listeners.forEach((l) => l());
    },
  };
}
