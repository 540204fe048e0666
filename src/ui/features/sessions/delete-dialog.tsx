'use client';
import type { SessionListItem } from '@/contracts';
import { Confirm, formatBytes } from '@/ui/kit';

/** Asks before sessions are deleted for good. */
export function DeleteDialog({
  sessions,
  onClose,
  onDelete,
}: {
  readonly sessions: readonly SessionListItem[];
  readonly onClose: () => void;
  readonly onDelete: () => void;
}) {
  const sum = (of: (s: SessionListItem) => number): number => sessions.reduce((n, s) => n + of(s), 0);
  const [recordings, packages] = [sum((s) => s.recordingCount), sum((s) => s.handoverCount)];
  const isOne = sessions.length === 1;
  return (
    <Confirm
      title={
        isOne ? <>Delete “{sessions[0]?.name}” for good</> : <>Delete {sessions.length} sessions for good</>
      }
      action={isOne ? 'Delete session and recordings' : 'Delete sessions and recordings'}
      onClose={onClose}
      onConfirm={onDelete}
    >
      <p>This removes:</p>
      <ul>
        <li>
          {recordings} {recordings === 1 ? 'recording' : 'recordings'} ({formatBytes(sum((s) => s.sizeBytes))}
          ), unless another session uses the same files
        </li>
        <li>
          all names, folders, the tempo map and the whole history of{' '}
          {isOne ? 'this session' : 'these sessions'}
        </li>
        {packages > 0 && (
          <li>
            {packages === 1 ? 'its package' : isOne ? `its ${packages} packages` : `${packages} packages`} on
            this machine; downloaded copies stay
          </li>
        )}
      </ul>
      <p className="fm-tight">This cannot be taken back.</p>
    </Confirm>
  );
}
