'use client';
import { useLayoutEffect } from 'react';

/** A key and what it does; `mod` = Ctrl or Cmd. */
export interface Shortcut {
  /** As `KeyboardEvent.key`, lower case. */
  readonly key?: string;
  /** As `KeyboardEvent.code`, for keys whose sign changes with Shift and layout. */
  readonly code?: string;
  readonly mod?: boolean;
  readonly shift?: boolean;
  readonly alt?: boolean;
  readonly run: () => void;
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)) &&
  !(target instanceof HTMLInputElement && ['checkbox', 'radio', 'range'].includes(target.type));

const SINGLE_KEYS = 'fernmoss-single-keys';

/** Whether keys of a single sign (N, Y, digits …) do anything; on unless a person switched them off. */
export const singleKeysOn = (): boolean => window.localStorage.getItem(SINGLE_KEYS) !== 'off';

/** Switches them on or off, for this browser. */
export const setSingleKeys = (on: boolean): void =>
  window.localStorage.setItem(SINGLE_KEYS, on ? 'on' : 'off');

/** The button clicked last, until the keyboard walks on: Space then plays, as it does everywhere, instead of pressing it again. */
let clicked: EventTarget | null = null;

/** Whether a menu was open when a key went down: Escape closes that, and nothing else with it. */
let hadMenu = false;

// From the first moment on: a button may be clicked before the page has come to itself.
if (typeof window !== 'undefined') {
  // Seen before the menu itself hears of the key and closes.
  window.addEventListener(
    'keydown',
    () => {
      hadMenu = document.querySelector('.dropdown-menu.show') !== null;
    },
    true,
  );
  window.addEventListener(
    'pointerdown',
    ({ target }) => {
      clicked = target instanceof Element ? target.closest('button') : null;
    },
    true,
  );
  window.addEventListener('focusin', ({ target }) => {
    if (target !== clicked) clicked = null;
  });
}

const MOVING_KEYS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown'];

/** Buttons reached by keys answer Space and Enter themselves, links Enter; sliders and choices of one in several what moves them. */
const keepsKey = (target: EventTarget | null, key: string): boolean =>
  target instanceof HTMLElement &&
  !(key === ' ' && target === clicked) &&
  ((target instanceof HTMLInputElement &&
    ['range', 'radio'].includes(target.type) &&
    MOVING_KEYS.includes(key)) ||
    (['BUTTON', 'SUMMARY'].includes(target.tagName) && ['Enter', ' '].includes(key)) ||
    (target.tagName === 'A' && key === 'Enter'));

/** Listens for keys on the whole page; single letters do nothing while someone types. What a key does is never older than what is drawn. */
export function useShortcuts(shortcuts: readonly Shortcut[]): void {
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.defaultPrevented || (event.key === 'Escape' && hadMenu)) return;
      const mod = event.ctrlKey || event.metaKey;
      if (typing(event.target) && !mod) return;
      if (!mod && keepsKey(event.target, event.key)) return;
      // WCAG 2.1.4: keys of one sign can be switched off, all but the one that shows how.
      if (!mod && !event.altKey && event.key.length === 1 && event.key !== '?' && !singleKeysOn()) return;
      if (document.querySelector('.modal.show') && event.key !== 'Escape') return;
      const hit = shortcuts.find(
        (s) =>
          (s.code === undefined ? s.key === event.key.toLowerCase() : s.code === event.code) &&
          (s.mod ?? false) === mod &&
          (s.alt ?? false) === event.altKey &&
          (s.shift === undefined || s.shift === event.shiftKey),
      );
      if (!hit) return;
      event.preventDefault();
      hit.run();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [shortcuts]);
}
