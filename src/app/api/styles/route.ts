import { newStyleSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { copyStyle, importStyle, listStyles } from '@/server/services';

export const dynamic = 'force-dynamic';

export const GET = () => handle(() => listStyles());

export const POST = (request: Request) =>
  handle(async () => {
    const { text, copyOf, name } = await readBody(request, newStyleSchema, { maxBytes: 12 << 20 });
    return {
      id: copyOf
        ? await copyStyle(copyOf.id, copyOf.version, name ?? 'A copy')
        : await importStyle(text ?? ''),
    };
  });
