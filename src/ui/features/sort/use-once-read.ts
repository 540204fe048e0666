import { useEffect, useRef } from 'react';

/** Actions that need the names to be read: pressed before, they are done as soon as they are. */
export function useOnceRead<K extends string>(
  isReading: boolean,
  actions: Readonly<Record<K, () => void>>,
): Record<K, () => void> {
  const waiting = useRef<K[]>([]);
  useEffect(() => {
    if (!isReading) for (const key of waiting.current.splice(0)) actions[key]();
  });
  const soon = (key: K) => (): void => {
    if (isReading) waiting.current.push(key);
    else actions[key]();
  };
  return Object.fromEntries((Object.keys(actions) as K[]).map((key) => [key, soon(key)])) as Record<
    K,
    () => void
  >;
}
