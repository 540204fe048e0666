import { listSessions } from '@/server/services';
import { SessionsPage } from '@/ui/features/sessions';

export const dynamic = 'force-dynamic';

export default async function Page() {
  return <SessionsPage initial={await listSessions()} />;
}
