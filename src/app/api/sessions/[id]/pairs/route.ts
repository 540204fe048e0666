import { pairRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { splitTrack, startJoin } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => {
    const { id } = await params;
    const { join, split } = await readBody(request, pairRequestSchema);
    return split !== undefined
      ? { revision: await splitTrack(id, split) }
      : { jobId: await startJoin(id, join as string[]) };
  });
