import { notFound } from 'next/navigation';
import { RequestFault } from '@/server/http';
import { namesOf, viewSession, viewStyle } from '@/server/services';
import { WithLibraries } from '@/ui/client';
import { StyleEditor } from '@/ui/features/styles';

export const dynamic = 'force-dynamic';

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ session?: string; part?: string }>;
}) {
  const { session, part } = await searchParams;
  const [style, view] = await Promise.all([
    viewStyle((await params).id),
    session === undefined ? null : viewSession(session),
  ]).catch((cause: unknown) => {
    if (cause instanceof RequestFault) notFound();
    throw cause;
  });
  return (
    <WithLibraries patternsOf={style.style}>
      <StyleEditor
        initial={style}
        session={view}
        names={view ? await namesOf({ ...view, style: style.style }) : []}
        openAt={part ?? null}
      />
    </WithLibraries>
  );
}
