import { returnRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { previewReturn, returnTo } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (request: Request, { params }: Context) =>
  handle(async () => {
    const { revision } = await returnRequestSchema
      .pick(['revision'])
      .validate({ revision: new URL(request.url).searchParams.get('revision') });
    return previewReturn((await params).id, revision);
  });

export const POST = (request: Request, { params }: Context) =>
  handle(async () => {
    const { revision, baseRevision } = await readBody(request, returnRequestSchema);
    return { revision: await returnTo((await params).id, revision, baseRevision) };
  });
