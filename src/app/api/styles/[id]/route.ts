import { saveStyleSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { removeStyle, saveStyle, viewStyle } from '@/server/services';

type Context = { params: Promise<{ id: string }> };

/** `?version=N`; without it the newest. */
const versionIn = (request: Request): number | null => {
  const given = new URL(request.url).searchParams.get('version');
  return given === null ? null : Number(given);
};

export const GET = (request: Request, { params }: Context) =>
  handle(async () => viewStyle((await params).id, versionIn(request)));

export const POST = (request: Request, { params }: Context) =>
  handle(async () => {
    const { base, style, note } = await readBody(request, saveStyleSchema, { maxBytes: 12 << 20 });
    return { version: await saveStyle((await params).id, base, style, note) };
  });

export const DELETE = (_request: Request, { params }: Context) =>
  handle(async () => removeStyle((await params).id));
