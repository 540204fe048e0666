import { editRequestSchema, editSchema, type EditRequest } from '@/contracts';
import { handle, readBodyWithList } from '@/server/http';
import { applyToSession } from '@/server/services';

/** A map of a long song, as played, has some 100,000 pulses. */
const LIMITS = { maxBytes: 16 << 20, maxValues: 1_500_000 };

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () => {
    const body = (await readBodyWithList(request, editRequestSchema, {
      key: 'edits',
      entry: editSchema,
      ...LIMITS,
    })) as unknown as EditRequest;
    return {
      revision: await applyToSession(
        (await params).id,
        body.edits,
        { label: body.label, author: 'person' },
        { baseRevision: body.baseRevision },
      ),
    };
  });
