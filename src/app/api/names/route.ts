import { type NamesQuestion, namesQuestionSchema } from '@/contracts';
import { handle, readBody } from '@/server/http';
import { answerNames } from '@/server/services';

export const dynamic = 'force-dynamic';

/** What names mean: asked by the page, which has no lexicon of its own. */
export const POST = (request: Request) =>
  handle(async () =>
    answerNames((await readBody(request, namesQuestionSchema, { maxBytes: 8 << 20 })) as NamesQuestion),
  );
