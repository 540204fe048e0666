import { type PointerEvent, useEffect, useMemo, useRef } from 'react';

const [HELD_MS, STILL_PX] = [500, 10];

/** What of a finger a long press is told from. */
export interface LongPressHandlers {
  readonly onPointerDown: (event: PointerEvent) => void;
  readonly onPointerMove: (event: PointerEvent) => void;
  readonly onPointerUp: () => void;
  readonly onPointerCancel: () => void;
}

/** Calls back where a finger rests for half a second: not every browser makes a right click of it. */
export function useLongPress(onHeld: (target: Element, x: number, y: number) => void): LongPressHandlers {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const from = useRef({ x: 0, y: 0 });
  const held = useRef(onHeld);
  useEffect(() => {
    held.current = onHeld;
  });
  return useMemo(() => {
    const stop = (): void => clearTimeout(timer.current);
    return {
      onPointerDown: ({ pointerType, target, clientX: x, clientY: y }) => {
        stop();
        if (pointerType === 'mouse' || !(target instanceof Element)) return;
        from.current = { x, y };
        timer.current = setTimeout(() => held.current(target, x, y), HELD_MS);
      },
      onPointerMove: ({ clientX, clientY }) => {
        if (Math.hypot(clientX - from.current.x, clientY - from.current.y) > STILL_PX) stop();
      },
      onPointerUp: stop,
      onPointerCancel: stop,
    };
  }, []);
}
