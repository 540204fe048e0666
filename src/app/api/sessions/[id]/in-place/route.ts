import { inPlaceRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { takeInPlace } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () =>
    takeInPlace(
      (await params).id,
      (await readBody(request, inPlaceRequestSchema, { maxBytes: 8 << 20 })).paths,
    ),
  );
