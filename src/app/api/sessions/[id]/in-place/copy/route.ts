import { handle } from '@/server/http';
import { startCopyingIn } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => startCopyingIn((await params).id));
