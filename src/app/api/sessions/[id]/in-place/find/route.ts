import { findRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { startFinding } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => startFinding((await params).id, (await readBody(request, findRequestSchema)).folder));
