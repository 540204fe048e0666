import { handle } from '@/server/http';
import { cancelJob } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => cancelJob((await params).id));
