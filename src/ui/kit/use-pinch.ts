'use client';
import { type RefObject, useEffect, useRef } from 'react';

/** How two fingers moved on an element since they were last heard of. */
export interface Pinch {
  /** How much farther apart they are: 2 = twice. */
  readonly spread: number;
  /** Where their middle is, as a share of the element's width, and how far it went. */
  readonly middle: number;
  readonly moved: number;
}

/** Tells of two fingers or pens on an element; while they are there, it is true: one pointer alone is not meant then. */
export function usePinch(
  element: RefObject<HTMLElement | null>,
  onPinch: (pinch: Pinch) => void,
): RefObject<boolean> {
  const isPinching = useRef(false);
  const latest = useRef(onPinch);
  useEffect(() => {
    latest.current = onPinch;
  });
  useEffect(() => {
    const { current: e } = element;
    if (!e) return;
    const at = new Map<number, number>();
    let last: { readonly apart: number; readonly middle: number } | null = null;
    const measure = (): typeof last => {
      const [a, b] = [...at.values()];
      if (a === undefined || b === undefined) return null;
      const { left, width } = e.getBoundingClientRect();
      return { apart: Math.max(8, Math.abs(a - b)), middle: ((a + b) / 2 - left) / Math.max(1, width) };
    };
    const down = (event: PointerEvent): void => {
      if (event.pointerType === 'mouse') return;
      at.set(event.pointerId, event.clientX);
      last = measure();
      isPinching.current = last !== null;
    };
    const move = (event: PointerEvent): void => {
      if (!at.has(event.pointerId)) return;
      at.set(event.pointerId, event.clientX);
      const now = measure();
      if (!now || !last) return;
      const pinch = { spread: now.apart / last.apart, middle: now.middle, moved: now.middle - last.middle };
      last = now;
      latest.current(pinch);
    };
    const up = (event: PointerEvent): void => {
      at.delete(event.pointerId);
      last = null;
      // The finger that stays draws nothing until it is lifted as well.
      if (at.size === 0) setTimeout(() => (isPinching.current = false), 0);
    };
    e.addEventListener('pointerdown', down);
    e.addEventListener('pointermove', move);
    for (const name of ['pointerup', 'pointercancel'] as const) e.addEventListener(name, up);
    return () => {
      e.removeEventListener('pointerdown', down);
      e.removeEventListener('pointermove', move);
      for (const name of ['pointerup', 'pointercancel'] as const) e.removeEventListener(name, up);
    };
  }, [element]);
  return isPinching;
}
