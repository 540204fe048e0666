'use client';
import { useRouter } from 'next/navigation';
import type { SessionListItem } from '@/contracts';
import { setWalk, useWalk } from '@/ui/client';
import { Button, Line } from '@/ui/kit';

/** To whoever is here for the first time: the walk over the demo, if that is still there. */
export function WalkOffer({ sessions }: { readonly sessions: readonly SessionListItem[] }) {
  const router = useRouter();
  const demo = sessions.find((s) => s.isDemo && s.shelf === 'list');
  if (useWalk() !== 'new' || !demo) return null;
  return (
    <Line className="fm-walk" role="note" wraps>
      <span className="fm-grow">
        <b>New here?</b> The demo, a harbour band, shows the whole way in six steps.
      </span>
      <Button
        onClick={() => {
          setWalk('1');
          router.push(`/sessions/${demo.id}/intake`);
        }}
      >
        Begin the walk
      </Button>
      <Button tone="quiet" onClick={() => setWalk('left')}>
        Not now
      </Button>
    </Line>
  );
}
