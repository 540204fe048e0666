'use client';
import { useEffect, useRef } from 'react';
import { useSession } from '@/ui/client';

/** Tells that the work of a session is done to who looks elsewhere: in the title of the tab, and as a message of the browser where that is allowed. */
export function JobNews() {
  const name = useSession((s) => s.view.session.name);
  const open = useSession((s) => s.view.jobs.filter((j) => ['queued', 'running'].includes(j.state)).length);
  const stopped = useSession((s) => s.view.jobs.filter((j) => j.state === 'failed').length);
  const before = useRef({ open, stopped });
  useEffect(() => {
    const last = before.current;
    before.current = { open, stopped };
    if (last.open === 0 || open > 0 || !document.hidden) return;
    const failed = stopped > last.stopped;
    const words = failed ? 'some of the work stopped' : 'all work is done';
    const title = document.title;
    document.title = `${failed ? '!' : '✓'} ${title}`;
    const back = (): void => {
      if (document.hidden) return;
      document.title = title;
      document.removeEventListener('visibilitychange', back);
    };
    document.addEventListener('visibilitychange', back);
    if ('Notification' in window && Notification.permission === 'granted')
      new Notification(`${name}: ${words}`, { tag: 'fernmoss-jobs', icon: '/fern.svg' });
  }, [open, stopped, name]);
  return null;
}
