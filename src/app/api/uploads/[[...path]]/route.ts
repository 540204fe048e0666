import { serveUpload } from '@/server/services';

export const dynamic = 'force-dynamic';

export {
  serveUpload as DELETE,
  serveUpload as GET,
  serveUpload as HEAD,
  serveUpload as OPTIONS,
  serveUpload as PATCH,
  serveUpload as POST,
};
