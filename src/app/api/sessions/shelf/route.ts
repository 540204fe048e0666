import { shelfRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { shelveSessions } from '@/server/services';

export const dynamic = 'force-dynamic';

export const POST = (request: Request) =>
  handle(async () => shelveSessions(await readBody(request, shelfRequestSchema)));
