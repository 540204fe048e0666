'use client';
import { type DOMAttributes, type RefObject, useRef } from 'react';
import { type ChangeWindow, useWindowGestures } from './use-window-gestures';
import { panned, type WaveWindow, type WindowLimits } from './wave-window';

/** A pointer that went less far only pointed, px. */
const DRAG_PX = 4;

/** A stretch of the song in sight, how far it goes, and how it is changed. */
export interface Sight {
  readonly window: WaveWindow;
  readonly limits: WindowLimits;
  readonly change: ChangeWindow;
}

/** What an element that shows a stretch of the song does under a pointer. */
export type PanHandlers<E extends Element> = Required<
  Pick<DOMAttributes<E>, 'onPointerDown' | 'onPointerMove' | 'onPointerUp' | 'onPointerCancel'>
>;

/** A click goes to a place; a drag moves the stretch in sight, the wheel and two fingers zoom it. The element is as wide as the stretch. */
export function useWindowPan<E extends HTMLElement>(
  element: RefObject<E | null>,
  { window, limits, change }: Sight,
  onSeek: (seconds: number) => void,
): PanHandlers<E> {
  const isPinching = useWindowGestures(element, change, limits);
  const held = useRef<{ readonly x: number; readonly window: WaveWindow; moved: boolean } | null>(null);
  return {
    onPointerDown: (e) => {
      if (isPinching.current || e.button !== 0) return;
      held.current = { x: e.clientX, window, moved: false };
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    onPointerMove: (e) => {
      const from = held.current;
      if (!from || isPinching.current || (!from.moved && Math.abs(e.clientX - from.x) < DRAG_PX)) return;
      from.moved = true;
      const share = (from.x - e.clientX) / e.currentTarget.getBoundingClientRect().width;
      change(() => panned(from.window, share, limits));
    },
    onPointerUp: (e) => {
      const from = held.current;
      held.current = null;
      if (!from || from.moved || isPinching.current) return;
      const { left, width } = e.currentTarget.getBoundingClientRect();
      onSeek(Math.max(0, window.from + ((e.clientX - left) / width) * (window.to - window.from)));
    },
    onPointerCancel: () => {
      held.current = null;
    },
  };
}
