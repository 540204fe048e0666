import { editRequestSchema, editSchema, type EditRequest, saysFamily } from '@/contracts';
import { handle, readBodyWithList } from '@/server/http';
import { findTempoByItself, acceptBatch } from '@/server/services';

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
    const { id } = await params;
    const answer = await acceptBatch(id, body);
    if (saysFamily(body))
      // The edit is made, whatever becomes of this.
      await findTempoByItself(id).catch((error: unknown) => console.error('looking for the tempo:', error));
    return answer;
  });
