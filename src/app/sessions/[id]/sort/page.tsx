import { SortStage } from '@/ui/features/sort';

export default async function Page({
  searchParams,
}: {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { view } = await searchParams;
  return <SortStage openAt={view === 'routing' ? 'routing' : 'tracks'} />;
}
