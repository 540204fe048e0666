import { handle } from '@/server/http';
import { readPeaks } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const frames = Number(new URL(request.url).searchParams.get('frames') ?? 4096);
    const bytes = await readPeaks((await params).id, frames);
    return new Response(bytes as BodyInit, { headers: { 'content-type': 'application/octet-stream', 'cache-control': 'private, max-age=86400, immutable' } });
  });
