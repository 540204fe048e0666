import { handle } from '@/server/http';
import { readPcm } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const query = new URL(request.url).searchParams;
    const { bytes, encoding, channels } = await readPcm((await params).id, Number(query.get('from')), Number(query.get('count')));
    return new Response(bytes as BodyInit, { headers: { 'content-type': 'application/octet-stream', 'x-encoding': encoding, 'x-channels': String(channels), 'cache-control': 'no-store' } });
  });
