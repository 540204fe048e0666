import { handle } from '@/server/http';
import { coverNoteOf } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

export const dynamic = 'force-dynamic';

export const GET = (_request: Request, { params }: Context) =>
  handle(async () => ({ html: await coverNoteOf((await params).id) }));
