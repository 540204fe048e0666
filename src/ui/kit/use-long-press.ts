import { type PointerEvent, useEffect, useMemo, useRef } from 'react';

const [HELD_MS, STILL_PX] = [500, 10];
/** A browser makes a click of the finger that is lifted, at once. */
const CLICK_MS = 100;

/** What of a finger a long press is told from. */
export interface LongPressHandlers {
  readonly onPointerDown: (event: PointerEvent) => void;
  readonly onPointerMove: (event: PointerEvent) => void;
  readonly onPointerUp: () => void;
  readonly onPointerCancel: () => void;
}

/** Calls back where a finger rests for half a second: not every browser makes a right click of it. Lifting it is no click then, which would close what was opened. */
export function useLongPress(onHeld: (target: Element, x: number, y: number) => void): LongPressHandlers {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const from = useRef({ x: 0, y: 0 });
  const held = useRef(onHeld);
  useEffect(() => {
    held.current = onHeld;
  });
  return useMemo(() => {
    const stop = (): void => clearTimeout(timer.current);
    const noClick = (event: Event): void => {
      event.stopPropagation();
      event.preventDefault();
    };
    const lift = (): void => {
      stop();
      setTimeout(() => window.removeEventListener('click', noClick, true), CLICK_MS);
    };
    return {
      onPointerDown: ({ pointerType, target, clientX: x, clientY: y }) => {
        stop();
        if (pointerType === 'mouse' || !(target instanceof Element)) return;
        from.current = { x, y };
        timer.current = setTimeout(() => {
          window.addEventListener('click', noClick, true);
          held.current(target, x, y);
        }, HELD_MS);
      },
      onPointerMove: ({ clientX, clientY }) => {
        if (Math.hypot(clientX - from.current.x, clientY - from.current.y) > STILL_PX) stop();
      },
      onPointerUp: lift,
      onPointerCancel: lift,
    };
  }, []);
}
