import { clickRequestSchema } from '@/contracts';
import { bodyOf, handle } from '@/server/http';
import { makeClickFile } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const asked = await clickRequestSchema.validate(Object.fromEntries(new URL(request.url).searchParams), {
      abortEarly: false,
    });
    const { stream, sizeBytes, fileName } = await makeClickFile((await params).id, asked);
    return new Response(bodyOf(stream), {
      headers: {
        'content-type': 'audio/wav',
        'content-length': String(sizeBytes),
        'content-disposition': `attachment; filename="${fileName}"`,
        'cache-control': 'no-store',
      },
    });
  });
