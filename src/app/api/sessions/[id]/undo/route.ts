import { handle } from '@/server/http';
import { undoSession } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ revision: await undoSession((await params).id) }));
