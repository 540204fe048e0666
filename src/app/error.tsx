'use client';
import Link from 'next/link';
import { Button } from '@/ui/kit';

/** What stands in place of a page that could not be drawn; nothing of the session is touched by that. */
export default function PageError({ error, reset }: { readonly error: Error; readonly reset: () => void }) {
  return (
    <div className="fm-empty" role="alert">
      <p>This page could not be drawn.</p>
      <p className="fm-faint">
        What was confirmed is kept. It said: <span className="fm-mono">{error.message || 'nothing'}</span>
      </p>
      <Button tone="main" onClick={reset}>
        Try again
      </Button>
      <Link className="fm-button" href="/">
        All sessions
      </Link>
    </div>
  );
}
