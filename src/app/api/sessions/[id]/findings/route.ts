import { dismissRequestSchema, type DismissRequest } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { dismissFindings } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () =>
    dismissFindings((await params).id, (await readBody(request, dismissRequestSchema)) as DismissRequest),
  );
