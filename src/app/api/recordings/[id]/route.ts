import { handle } from '@/server/http';
import { dismissRecording } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const DELETE = (_request: Request, { params }: Context) =>
  handle(async () => dismissRecording((await params).id));
