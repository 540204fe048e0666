import { cleanRequestSchema, type CleanRequest } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { cleanSession } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () =>
    cleanSession((await params).id, (await readBody(request, cleanRequestSchema)) as CleanRequest),
  );
