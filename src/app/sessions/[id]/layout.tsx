import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { RequestFault } from '@/server/http';
import { viewSession } from '@/server/services';
import { SessionFrame } from '@/ui/shell';

export const dynamic = 'force-dynamic';

export default async function SessionLayout({
  children,
  params,
}: {
  children: ReactNode;
  params: Promise<{ id: string }>;
}) {
  const view = await viewSession((await params).id).catch((cause: unknown) => {
    if (cause instanceof RequestFault) notFound();
    throw cause;
  });
  return <SessionFrame initial={view}>{children}</SessionFrame>;
}
