import { Readable } from 'node:stream';
import { soundRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { readSound } from '@/server/services';

export const POST = (request: Request) =>
  handle(async () => {
    const { pieces } = await readBody(request, soundRequestSchema);
    return new Response(Readable.toWeb(Readable.from(readSound(pieces))) as BodyInit, { headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' } });
  });
