import { handle } from '@/server/http';
import { retryRecording } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => retryRecording((await params).id));
