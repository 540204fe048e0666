import { uploadServer } from '@/server/services';

export const dynamic = 'force-dynamic';

const serve = (request: Request) => uploadServer().handleWeb(request);

export { serve as DELETE, serve as GET, serve as HEAD, serve as OPTIONS, serve as PATCH, serve as POST };
