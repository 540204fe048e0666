import { sessionEvents } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const dynamic = 'force-dynamic';

export async function GET(request: Request, { params }: Context) {
  return new Response(sessionEvents((await params).id, request.signal), {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
  });
}
