import { copyRequestSchema } from '@/contracts';
import { handle } from '@/server/http';
import { listFolders } from '@/server/services';

export const GET = (request: Request) =>
  handle(async () => {
    const path = new URL(request.url).searchParams.get('path');
    return listFolders(path === null ? null : (await copyRequestSchema.validate({ folder: path })).folder);
  });
