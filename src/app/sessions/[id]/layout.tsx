import type { ReactNode } from 'react';
import { SessionFrame } from '@/ui/shell';
import { type SessionParams, viewOfPage } from './session-of-page';

export const dynamic = 'force-dynamic';

export default async function SessionLayout({
  children,
  params,
}: SessionParams & { readonly children: ReactNode }) {
  return <SessionFrame initial={await viewOfPage((await params).id)}>{children}</SessionFrame>;
}
