import { handle } from '@/server/http';
import { readNotes } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => readNotes((await params).id));
