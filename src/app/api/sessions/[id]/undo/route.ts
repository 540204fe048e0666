import { handle, knownRevision } from '@/server/http';
import { undoOrRedo } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => undoOrRedo((await params).id, 'undo', knownRevision(request)));
