import { handle } from '@/server/http';
import { dismissJob } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => dismissJob((await params).id));
