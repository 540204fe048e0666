import { handle } from '@/server/http';
import { listenForLevels } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ waiting: await listenForLevels((await params).id) }));
