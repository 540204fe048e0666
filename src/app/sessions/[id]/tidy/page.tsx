import { TIDY_VIEWS, TidyStage } from '@/ui/features/tidy';
import { stageTitle } from '../session-of-page';

export const generateMetadata = stageTitle('Tidy');

export default async function Page({
  searchParams,
}: {
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { view } = await searchParams;
  return <TidyStage openAt={TIDY_VIEWS.find((v) => v === view) ?? 'cuts'} />;
}
