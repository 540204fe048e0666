import { handle } from '@/server/http';
import { startBalance } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ jobId: await startBalance((await params).id) }));
