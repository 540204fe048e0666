import { handle, pcmResponse } from '@/server/http';
import { readPcm } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const query = new URL(request.url).searchParams;
    return pcmResponse(await readPcm((await params).id, Number(query.get('from')), Number(query.get('count'))));
  });
