import { editRequestSchema, type EditRequest } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { applyToSession } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => {
    const body = (await readBody(request, editRequestSchema)) as unknown as EditRequest;
    return {
      revision: await applyToSession(
        (await params).id,
        body.edits,
        { label: body.label, author: 'person' },
        { baseRevision: body.baseRevision },
      ),
    };
  });
