import { rm } from 'node:fs/promises';
import { runTask } from '@/engine';
import { readConfig } from '@/server/config';
import { BlobModel, ConformFileModel } from '@/server/db';
import type { JobContext, JobHandler } from '@/server/jobs';
import { isWanted, keepingBlobs, type RenderRequest } from '@/server/services';
import { blobStore, temporaryPath } from '@/server/storage';
import { withSounds } from '../sound-paths';

/** Conforms one group of recordings for good. */
export const conformRender: JobHandler<'conform.render'> = async (context) => {
  const request = context.payload;
  if (context.sessionId === null || !(await isWanted(context.sessionId, request))) return {};
  await render(context.sessionId, request, context, context.progress);
  return {};
};

/** Someone waits for an audition: its groups are made side by side. */
const AUDITION_AT_ONCE = 2;

/** Conforms a few bars of some groups. */
export const conformAudition: JobHandler<'conform.audition'> = async (context) => {
  const { requests } = context.payload;
  const { sessionId } = context;
  if (sessionId === null) return {};
  const shares = requests.map(() => 0);
  const open = [...requests.entries()];
  const work = async (): Promise<void> => {
    for (let next = open.shift(); next; next = open.shift()) {
      const [i, request] = next;
      await render(sessionId, request, context, (share) => {
        shares[i] = share;
        context.progress(shares.reduce((sum, s) => sum + s, 0) / shares.length);
      });
    }
  };
  await Promise.all(Array.from({ length: AUDITION_AT_ONCE }, work));
  return {};
};

async function render(
  sessionId: string,
  request: RenderRequest,
  { cancel }: Pick<JobContext, 'cancel'>,
  progress: JobContext['progress'],
): Promise<void> {
  const keys = request.sources.map((s) => s.key);
  if ((await ConformFileModel.count({ where: { sessionId, key: keys } })) === keys.length) return;
  const store = blobStore();
  const paths = await Promise.all(keys.map(temporaryPath));
  try {
    const { files, made } = await withSounds(
      request.sources.map((s) => s.sha256),
      cancel,
      (pathOf) =>
        runTask(
          'conform',
          {
            method: request.method,
            block: request.block,
            pegs: request.pegs,
            excerpt: request.excerpt,
            sources: request.sources.map((s, i) => ({
              path: pathOf(s.sha256),
              outPath: paths[i] as string,
              startFrames: s.startFrames,
              rank: s.rank,
            })),
          },
          { threadPath: readConfig().threadPath, progress, cancel },
        ),
    );
    await keepingBlobs(async (transaction) => {
      for (const [i, m] of made.entries()) await store.adopt(paths[i] as string, m.sha256);
      await BlobModel.bulkCreate(
        made.map((m) => ({ sha256: m.sha256, sizeBytes: m.sizeBytes })),
        { ignoreDuplicates: true, transaction },
      );
      await ConformFileModel.bulkCreate(
        made.map((m, i) => ({
          sessionId,
          key: keys[i] as string,
          sha256: m.sha256,
          dataOffset: m.dataOffset,
          lengthFrames: m.lengthFrames,
          channels: m.channels,
          excerpt: request.excerpt !== null,
          ratioMin: files[i]?.ratioMin ?? 1,
          ratioMax: files[i]?.ratioMax ?? 1,
          matchDb: files[i]?.matchDb ?? 0,
        })),
        { ignoreDuplicates: true, transaction },
      );
    });
  } finally {
    await Promise.all(paths.map((p) => rm(p, { force: true })));
  }
}
