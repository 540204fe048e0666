'use client';
import type { ReactNode } from 'react';
import { isRefused, uncomparedOf } from '@/contracts';
import { findingsOf, useSession } from '@/ui/client';
import { Button, Kbd, useShortcuts } from '@/ui/kit';

/** How many came in, what was found, and what is next. */
export function IntakeHead({
  showsAside,
  onShowAside,
  onAsk,
  children,
}: {
  /** Whether what was put aside is listed as well. */
  readonly showsAside: boolean;
  readonly onShowAside: (on: boolean) => void;
  readonly onAsk: () => void;
  readonly children: ReactNode;
}) {
  const view = useSession((s) => s.view);
  const { open, dismissed } = findingsOf(view);
  const failed = view.recordings.filter(isRefused).length;
  const ready = view.recordings.filter((r) => r.state === 'ready').length;
  useShortcuts([{ key: 'q', run: onAsk }]);
  return (
    <header className="fm-stage-head">
      <h1>Intake</h1>
      <span>
        <b>{ready}</b> {ready === 1 ? 'recording' : 'recordings'}
      </span>
      {failed > 0 && (
        <span className="fm-attention">
          <b>{failed}</b> not taken
        </span>
      )}
      {open.length > 0 && (
        <span className={open.some((f) => f.severity !== 'note') ? 'fm-attention' : undefined}>
          <b>{open.length}</b> {open.length === 1 ? 'thing' : 'things'} found
        </span>
      )}
      <StillComparing />
      {dismissed.length > 0 && (
        <Button tone="quiet" isOn={showsAside} onClick={() => onShowAside(!showsAside)}>
          {dismissed.length} put aside
        </Button>
      )}
      <span className="fm-top-spring" />
      {ready > 0 && (
        <Button tone="quiet" onClick={onAsk}>
          Questions <Kbd>Q</Kbd>
        </Button>
      )}
      {children}
    </header>
  );
}

/** What is found so far may not be all. */
function StillComparing() {
  const view = useSession((s) => s.view);
  const { count, isUnderWay } = uncomparedOf(view);
  if (count === 0) return null;
  const recordings = count === 1 ? '1 recording' : `${count} recordings`;
  return (
    <span className={isUnderWay ? 'fm-faint' : 'fm-attention'} role="status">
      {isUnderWay
        ? `${recordings} still being listened to and compared`
        : `${recordings} not listened to: finding the tempo asks for it again`}
    </span>
  );
}
