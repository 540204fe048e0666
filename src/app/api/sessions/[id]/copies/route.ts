import { handle } from '@/server/http';
import { copySession } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ id: await copySession((await params).id) }));
