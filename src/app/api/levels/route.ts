import { levelsRequestSchema } from '@/contracts';
import { bodyOf, handle, readBody } from '@/server/http';
import { readLevels } from '@/server/services';

export const POST = (request: Request) =>
  handle(async () => {
    const { recordings } = await readBody(request, levelsRequestSchema);
    return new Response(bodyOf(readLevels(recordings)), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' },
    });
  });
