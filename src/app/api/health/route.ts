import { handle } from '@/server/http';
import { listSessions } from '@/server/services';

export const dynamic = 'force-dynamic';

/** Answers once the page can be served: the database is reached. */
export const GET = () => handle(async () => ({ ok: true, sessions: (await listSessions()).length }));
