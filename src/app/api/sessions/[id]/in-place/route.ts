import { inPlaceRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { importInPlace } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  handle(async () =>
    importInPlace(
      (await params).id,
      (await readBody(request, inPlaceRequestSchema, { maxBytes: 8 << 20 })).paths,
    ),
  );
