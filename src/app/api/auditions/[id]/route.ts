import { handle } from '@/server/http';
import { viewAudition } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => viewAudition((await params).id));
