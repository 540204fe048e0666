import { handle } from '@/server/http';
import { redoSession } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ revision: await redoSession((await params).id) }));
