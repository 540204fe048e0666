import { type DetectRequest, detectRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { startDetection } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => ({
    jobId: await startDetection(
      (await params).id,
      (await readBody(request, detectRequestSchema)) as DetectRequest,
    ),
  }));
