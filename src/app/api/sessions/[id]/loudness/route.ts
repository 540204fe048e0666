import { handle } from '@/server/http';
import { newestMeasures, startMeasuring } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => ({ jobId: await startMeasuring((await params).id) }));

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => await newestMeasures((await params).id));
