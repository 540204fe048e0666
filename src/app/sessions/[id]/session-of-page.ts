import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { RequestFault } from '@/server/http';
import { viewSession } from '@/server/services';

/** What pages of a session are made from. */
export interface SessionParams {
  readonly params: Promise<{ readonly id: string }>;
}

/** The session of a page, read once for all that is made from it. */
export const viewOfPage = cache((id: string) =>
  viewSession(id).catch((cause: unknown) => {
    if (cause instanceof RequestFault) notFound();
    throw cause;
  }),
);

/** The title of a stage's page: tells tabs of the browser apart. */
export const stageTitle =
  (stage: string) =>
  async ({ params }: SessionParams): Promise<Metadata> => {
    const { name } = (await viewOfPage((await params).id)).session;
    return { title: `${name} · ${stage} · Fernmoss` };
  };
