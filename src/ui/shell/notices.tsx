'use client';
import { Alert, Button } from 'react-bootstrap';
import { faultText } from '@/contracts';
import { useSession, useSessionStore } from '@/ui/client';

/** What went wrong, where it is seen, with the choice there is. */
export function Notices() {
  const store = useSessionStore();
  const fault = useSession((s) => s.fault);
  const stale = useSession((s) => s.stale);
  const online = useSession((s) => s.online);
  return (
    <div className="fm-notices" aria-live="polite">
      {!online && (
        <Alert variant="warning" className="mb-0">
          Fernmoss does not answer. What is on this page is kept; it goes on by itself once “npm start” runs
          again.
        </Alert>
      )}
      {fault && (
        <Alert variant="danger" className="mb-0" dismissible onClose={() => store.getState().dismissFault()}>
          {faultText(fault)}
        </Alert>
      )}
      {stale && (
        <Alert variant="warning" className="mb-0 d-flex gap-2 align-items-center flex-wrap">
          <span className="flex-grow-1">
            Changed in another window meanwhile
            {stale.since.length > 0 ? `: ${stale.since.slice(-3).join(', ')}` : ''}. Your step “{stale.label}”
            was not done.
          </span>
          <Button size="sm" onClick={() => store.getState().resolveStale(true)}>
            Do mine on top
          </Button>
          <Button size="sm" variant="outline-secondary" onClick={() => store.getState().resolveStale(false)}>
            Leave it
          </Button>
        </Alert>
      )}
    </div>
  );
}
