import { handle, knownRevision } from '@/server/http';
import { mustExist, sessionEvents } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const dynamic = 'force-dynamic';

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const { id } = await params;
    await mustExist(id);
    return new Response(sessionEvents(id, knownRevision(request), request.signal), {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
    });
  });
