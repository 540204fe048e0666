import { handle } from '@/server/http';
import { makeDefault } from '@/server/services';

export const POST = (_request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(async () => makeDefault((await params).id));
