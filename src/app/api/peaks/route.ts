import { peaksRequestSchema } from '@/contracts';
import { bodyOf, handle, readBody } from '@/server/http';
import { readPeaks } from '@/server/services';

export const POST = (request: Request) =>
  handle(async () => {
    const { recordings, framesPerEntry } = await readBody(request, peaksRequestSchema);
    return new Response(bodyOf(readPeaks(recordings, framesPerEntry)), {
      headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' },
    });
  });
