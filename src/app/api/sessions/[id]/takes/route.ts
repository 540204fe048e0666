import { takesRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { packTakes, startTakes, unpackTakes } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => {
    const { id } = await params;
    const { pack, unpack } = await readBody(request, takesRequestSchema);
    if (pack) return { revision: await packTakes(id, pack.groups) };
    return unpack === undefined
      ? { jobId: await startTakes(id) }
      : { revision: await unpackTakes(id, unpack) };
  });
