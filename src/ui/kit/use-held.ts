'use client';
import { useRef, useState } from 'react';

/** What a pointer has hold of. */
export interface Held<T> {
  /** As the page draws it. */
  readonly shown: T | null;
  /** As the last event left it: moves come faster than the page is drawn, and a release must count them all. */
  readonly latest: () => T | null;
  readonly hold: (value: T | null) => void;
  /** Lets go, and says what was held. */
  readonly letGo: () => T | null;
}

/** Something that is pulled by a pointer; for handlers of one pull, which may run before the page was drawn anew. */
export function useHeld<T>(): Held<T> {
  const [shown, setShown] = useState<T | null>(null);
  const last = useRef<T | null>(null);
  const hold = (value: T | null): void => {
    last.current = value;
    setShown(value);
  };
  return {
    shown,
    latest: () => last.current,
    hold,
    letGo: () => {
      const held = last.current;
      hold(null);
      return held;
    },
  };
}
