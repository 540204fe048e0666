import { handle } from '@/server/http';
import { resumeConforming } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const POST = (_request: Request, { params }: Context) =>
  handle(async () => resumeConforming((await params).id));
