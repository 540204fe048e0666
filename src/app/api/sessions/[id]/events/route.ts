import { handle } from '@/server/http';
import { mustExist, sessionEvents } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const dynamic = 'force-dynamic';

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const { id } = await params;
    await mustExist(id);
    // A browser that lost the stream says itself how far it had come.
    const known = request.headers.get('last-event-id') ?? new URL(request.url).searchParams.get('after');
    const after = known !== null && /^\d{1,9}$/.test(known) ? Number(known) : null;
    return new Response(sessionEvents(id, after, request.signal), {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
    });
  });
