import { copyRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { startCopy } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => ({
    jobId: await startCopy((await params).id, (await readBody(request, copyRequestSchema)).folder),
  }));
