'use client';
import { type RefObject, useEffect, useRef } from 'react';
import { usePinch } from './use-pinch';
import { fitted, panned, type WaveWindow, type WindowLimits, zoomed } from './wave-window';

/** How much nearer or farther a notch of the wheel goes. */
const WHEEL_ZOOM = 1.35;

/** Changes a stretch in sight, made from the one that is. */
export type ChangeWindow = (make: (window: WaveWindow) => WaveWindow) => void;

/**
 * The wheel and two fingers on what shows a stretch of the song: zoomed where one looks, moved sideways or with Shift.
 * True while two fingers are there: one of them alone is not meant then.
 */
export function useWindowGestures(
  element: RefObject<HTMLElement | null>,
  change: ChangeWindow,
  limits: WindowLimits,
): RefObject<boolean> {
  const latest = useRef({ change, limits });
  useEffect(() => {
    latest.current = { change, limits };
  });
  useEffect(() => {
    const { current: e } = element;
    if (!e) return;
    const onWheel = (event: WheelEvent): void => {
      // The browser's own zoom, and its way back to the page before, are not meant here.
      event.preventDefault();
      const { left, width } = e.getBoundingClientRect();
      const share = (event.clientX - left) / width;
      const { change: change_, limits: within } = latest.current;
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      const isSideways = Math.abs(sideways) > Math.abs(event.shiftKey ? 0 : event.deltaY);
      change_((w) => {
        const now = fitted(w, within);
        return isSideways
          ? panned(now, sideways / width, within)
          : zoomed(now, WHEEL_ZOOM ** (event.deltaY / 100), now.from + share * (now.to - now.from), within);
      });
    };
    // React listens passively, and the page must not scroll.
    e.addEventListener('wheel', onWheel, { passive: false });
    return () => e.removeEventListener('wheel', onWheel);
  }, [element]);
  return usePinch(element, ({ spread, middle, moved }) =>
    change((w) => {
      const now = fitted(w, limits);
      return panned(zoomed(now, 1 / spread, now.from + middle * (now.to - now.from), limits), -moved, limits);
    }),
  );
}
