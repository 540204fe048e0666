import { handle } from '@/server/http';
import { viewHits } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => viewHits((await params).id));
