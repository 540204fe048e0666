'use client';
import { type RefObject, useRef, useState } from 'react';

/** Where what opens over the page belongs: the part of the page its button is in, so that a screen reader finds it there. `find` looks for it once it opens. */
export function useLandmark<E extends Element>(): {
  readonly button: RefObject<E | null>;
  readonly landmark: Element | null;
  readonly find: () => void;
} {
  const button = useRef<E>(null);
  const [landmark, setLandmark] = useState<Element | null>(null);
  return {
    button,
    landmark,
    find: () => setLandmark(landmarkOf(button.current)),
  };
}

/** The part of the page an element is in; of one that is nowhere, the main part. */
export const landmarkOf = (element: Element | null): Element =>
  element?.closest('main, header, nav, aside, [role=dialog]') ??
  document.querySelector('main') ??
  document.body;
