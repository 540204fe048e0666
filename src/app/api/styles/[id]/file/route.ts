import { handle } from '@/server/http';
import { styleFile } from '@/server/services';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  handle(async () => {
    const given = new URL(request.url).searchParams.get('version');
    const { text, fileName } = await styleFile((await params).id, given === null ? null : Number(given));
    return new Response(text, {
      headers: {
        'content-type': 'application/yaml; charset=utf-8',
        'content-disposition': `attachment; filename="${fileName}"`,
      },
    });
  });
