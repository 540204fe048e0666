'use client';
import { useState } from 'react';
import { Icon } from './icon';

/** Puts a text on the clipboard and says so. */
export function CopyButton({ text, children }: { readonly text: string; readonly children: string }) {
  const [said, setSaid] = useState<string | null>(null);
  const copy = (): void =>
    void navigator.clipboard.writeText(text).then(
      () => setSaid('Copied'),
      () => setSaid('Not allowed here'),
    );
  return (
    <button type="button" className="fm-button" title={text} onClick={copy} onBlur={() => setSaid(null)}>
      <Icon name="clipboard" /> <span aria-live="polite">{said ?? children}</span>
    </button>
  );
}
