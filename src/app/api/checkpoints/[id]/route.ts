import { handle } from '@/server/http';
import { removeCheckpoint } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const DELETE = (_request: Request, { params }: Context) =>
  handle(async () => removeCheckpoint((await params).id));
