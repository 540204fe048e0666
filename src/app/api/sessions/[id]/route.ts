import { handle } from '@/server/http';
import { deleteForGood, viewSession } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => viewSession((await params).id));

export const DELETE = (_request: Request, { params }: Context) =>
  handle(async () => deleteForGood((await params).id));
