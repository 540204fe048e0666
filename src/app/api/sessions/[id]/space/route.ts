import { handle } from '@/server/http';
import { viewSpace } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => viewSpace((await params).id));
