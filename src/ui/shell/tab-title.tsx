'use client';
import { usePathname } from 'next/navigation';
import { useEffect } from 'react';
import { STAGE_NAMES, useSession } from '@/ui/client';

/** Tells tabs of the browser apart: the title says session and stage. */
export function TabTitle() {
  const name = useSession((s) => s.view.session.name);
  const path = usePathname();
  const stage = Object.entries(STAGE_NAMES).find(([key]) => path.endsWith(`/${key}`))?.[1];
  const title = [name, stage, 'Fernmoss'].filter(Boolean).join(' · ');
  useEffect(() => {
    document.title = title;
  }, [title]);
  return null;
}
