import { handle } from '@/server/http';
import { startSections } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ jobId: await startSections((await params).id) }));
