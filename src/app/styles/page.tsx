import { listStyles } from '@/server/services';
import { StylesPage } from '@/ui/features/styles';

export const dynamic = 'force-dynamic';

export default async function Page({ searchParams }: { searchParams: Promise<{ session?: string }> }) {
  return <StylesPage initial={await listStyles()} sessionId={(await searchParams).session ?? null} />;
}
