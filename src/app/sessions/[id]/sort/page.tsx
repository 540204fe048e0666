import { cookies } from 'next/headers';
import { COLUMNS_COOKIE, SORT_VIEWS, SortStage } from '@/ui/features/sort';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Sort');

export default async function Page({
  searchParams,
}: {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { view } = await searchParams;
  const kept = (await cookies()).get(COLUMNS_COOKIE)?.value;
  const openAt = SORT_VIEWS.find((v) => v === view) ?? 'tracks';
  return <SortStage openAt={openAt} keptColumns={kept} />;
}
