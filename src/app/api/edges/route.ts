import { type EdgesRequest, edgesRequestSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { refineEdges } from '@/server/services';

export const POST = (request: Request) =>
  handle(async () => refineEdges((await readBody(request, edgesRequestSchema)) as EdgesRequest));
