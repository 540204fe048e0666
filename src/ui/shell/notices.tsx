'use client';
import { faultText } from '@/contracts';
import { useSession, useSessionStore } from '@/ui/client';
import { ConflictNotice } from './conflict-notice';
import { Notice } from '@/ui/kit';

/** What becomes of what was done here meanwhile. */
const waiting = (unsent: number): string =>
  unsent === 0
    ? 'What is on this page is kept.'
    : `${unsent === 1 ? 'One step of yours waits' : `${unsent} steps of yours wait`} to be sent: keep this page open.`;

/** What went wrong, where it is seen, with the choice there is. */
export function Notices() {
  const store = useSessionStore();
  const fault = useSession((s) => s.fault);
  const asked = useSession((s) => s.asked[0]);
  const unsent = useSession((s) => s.unsent);
  const online = useSession((s) => s.online);
  return (
    <div className="fm-notices" aria-live="polite">
      {!online && (
        <Notice tone="warning" className="fm-tight">
          Fernmoss does not answer. {waiting(unsent)} It goes on by itself once “npm start” runs again.
        </Notice>
      )}
      {fault && (
        <Notice tone="danger" className="fm-tight" onClose={() => store.getState().dismissFault()}>
          {faultText(fault)}
        </Notice>
      )}
      {asked && <ConflictNotice key={asked.batch.id} asked={asked} />}
    </div>
  );
}
