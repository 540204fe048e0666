import { inPlaceRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { useInPlace } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) => handle(async () => useInPlace((await params).id, (await readBody(request, inPlaceRequestSchema)).paths));
