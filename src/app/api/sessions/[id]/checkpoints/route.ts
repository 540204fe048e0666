import { checkpointRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { makeCheckpoint } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => ({
    id: await makeCheckpoint((await params).id, (await readBody(request, checkpointRequestSchema)).name),
  }));
