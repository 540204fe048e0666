import { auditionRequestSchema, type AuditionRequest } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { startAudition } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => ({
    jobId: await startAudition(
      (await params).id,
      (await readBody(request, auditionRequestSchema)) as AuditionRequest,
    ),
  }));
