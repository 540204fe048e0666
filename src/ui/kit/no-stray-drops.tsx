'use client';
import { useEffect } from 'react';

/** Files dragged where nothing takes them are refused, as the pointer shows: the browser would leave the page for them. */
export function NoStrayDrops() {
  useEffect(() => {
    const refuse = (event: DragEvent): void => {
      if (event.defaultPrevented || !event.dataTransfer?.types.includes('Files')) return;
      event.preventDefault();
      event.dataTransfer.dropEffect = 'none';
    };
    const kinds = ['dragover', 'drop'] as const;
    for (const kind of kinds) window.addEventListener(kind, refuse);
    return () => {
      for (const kind of kinds) window.removeEventListener(kind, refuse);
    };
  }, []);
  return null;
}
