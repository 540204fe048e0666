import { newSessionSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { createSession, listSessions } from '@/server/services';

export const dynamic = 'force-dynamic';

export const GET = () => handle(() => listSessions());

export const POST = (request: Request) =>
  handle(async () => ({ id: await createSession(await readBody(request, newSessionSchema)) }));
