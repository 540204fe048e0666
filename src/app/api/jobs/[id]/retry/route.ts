import { handle } from '@/server/http';
import { retryJob } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => retryJob((await params).id));
