import type { ReactNode } from 'react';
import { isInWaste, namesOf } from '@/server/services';
import { InWaste } from '@/ui/features/sessions';
import { SessionFrame } from '@/ui/shell';
import { type SessionParams, viewOfPage } from './session-of-page';

export const dynamic = 'force-dynamic';

export default async function SessionLayout({
  children,
  params,
}: SessionParams & { readonly children: ReactNode }) {
  const view = await viewOfPage((await params).id);
  if (await isInWaste(view.id)) return <InWaste id={view.id} name={view.session.name} />;
  return (
    <SessionFrame initial={view} names={await namesOf(view)}>
      {children}
    </SessionFrame>
  );
}
