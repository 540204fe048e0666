'use client';
import { useEffect, useRef } from 'react';

let ownWalk: (() => void) | null = null;

/** What `N` does in the stage at hand, where that has doubts of its own; null = it goes to the next doubtful track. */
export const nextDoubtHere = (): (() => void) | null => ownWalk;

/** A stage walks through its own doubts while it is shown; null = it has none now. */
export function useOwnDoubts(walk: (() => void) | null): void {
  const latest = useRef(walk);
  useEffect(() => {
    latest.current = walk;
    ownWalk = walk;
  });
  useEffect(
    () => () => {
      if (ownWalk === latest.current) ownWalk = null;
    },
    [],
  );
}
