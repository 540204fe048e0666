import { bodyOf, handle } from '@/server/http';
import { packageStream } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => {
    const { stream, fileName } = await packageStream((await params).id);
    return new Response(bodyOf(stream as AsyncIterable<Uint8Array>), {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="${fileName}"`,
        'cache-control': 'no-store',
      },
    });
  });
