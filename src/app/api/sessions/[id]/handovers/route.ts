import { handoverRequestSchema, type HandoverRequest } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { startHandover } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => ({
    id: await startHandover(
      (await params).id,
      (await readBody(request, handoverRequestSchema)) as HandoverRequest,
    ),
  }));
