import { handle } from '@/server/http';
import { viewHistory } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => viewHistory((await params).id));
