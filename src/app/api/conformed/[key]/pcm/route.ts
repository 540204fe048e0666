import { handle, pcmResponse } from '@/server/http';
import { readConformedPcm } from '@/server/services';

type Context = { params: Promise<{ key: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const query = new URL(request.url).searchParams;
    return pcmResponse(await readConformedPcm((await params).key, Number(query.get('from')), Number(query.get('count'))));
  });
