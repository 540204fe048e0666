import { soundRequestSchema } from '@/contracts';
import { bodyOf, handle, readBody } from '@/server/http';
import { readSound } from '@/server/services';

export const POST = (request: Request) =>
  handle(async () => {
    const { pieces } = await readBody(request, soundRequestSchema);
    return new Response(bodyOf(readSound(pieces)), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' },
    });
  });
