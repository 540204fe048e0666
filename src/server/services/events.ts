import { QueryTypes } from 'sequelize';
import type { SessionNews } from '@/contracts';
import { db } from '../db';
import { batchesAfter } from './batches';

const POLL_MS = 500;
const KEEP_ALIVE_MS = 15_000;

/**
 * A stream of {@link SessionNews}, a message whenever a session, its jobs, recordings or packages changed; what was done
 * in between travels with it. The first message comes at once, with what was done after revision `after`, if that is known.
 */
export function sessionEvents(
  sessionId: string,
  after: number | null,
  signal: AbortSignal,
): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let timer: ReturnType<typeof setTimeout> | undefined;
  return new ReadableStream({
    start(controller) {
      let last: SessionStamp | null = after === null ? null : { revision: after, rest: '', progress: {} };
      let quietMs = 0;
      const stop = (): void => {
        clearTimeout(timer);
        try {
          controller.close();
        } catch {
          // already closed by the reader
        }
      };
      signal.addEventListener('abort', stop);
      const poll = async (): Promise<void> => {
        try {
          const stamp = await readStamp(sessionId);
          quietMs += POLL_MS;
          if (JSON.stringify(stamp) !== JSON.stringify(last)) {
            const news = await newsOf(sessionId, stamp, last);
            controller.enqueue(encoder.encode(`id: ${stamp.revision}\ndata: ${JSON.stringify(news)}\n\n`));
          } else if (quietMs >= KEEP_ALIVE_MS) {
            controller.enqueue(encoder.encode(': here\n\n'));
            quietMs = 0;
          }
          last = stamp;
        } catch {
          // The database may be restarting: the stream stays and tries again.
        }
        if (!signal.aborted) timer = setTimeout(() => void poll(), POLL_MS);
      };
      void poll();
    },
    cancel() {
      clearTimeout(timer);
    },
  });
}

async function newsOf(id: string, stamp: SessionStamp, last: SessionStamp | null): Promise<SessionNews> {
  if (!last || stamp.revision === last.revision) return stamp;
  const since = await batchesAfter(id, last.revision);
  // Read a moment later, it may hold a step more than the stamp says: it comes again, and is passed by.
  return { ...stamp, since };
}

/** How far a session is: its revision, a text that is another whenever anything else a page shows of it is, and how far its running jobs are. */
export type SessionStamp = Required<Omit<SessionNews, 'since'>>;

/** The stamp of a session; one that is gone has revision −1. */
export async function readStamp(sessionId: string): Promise<SessionStamp> {
  const [row] = await db().query<SessionStamp>(
    `select revision, md5(concat_ws('.',
       (select md5(string_agg(id::text || state, ',' order by id)) from jobs where session_id = :id and state in ('queued','running','failed')),
       (select max(finished_at) from jobs where session_id = :id),
       (select md5(string_agg(id::text || state || (onsets_sha256 is not null)::text || (converted_sha256 is not null)::text, ',' order by id)) from recordings where session_id = :id),
       (select md5(string_agg(id::text || state, ',' order by id)) from handovers where session_id = :id))) rest,
       (select coalesce(json_object_agg(id, progress order by id), '{}') from jobs where session_id = :id and state = 'running') progress
     from sessions where id = :id`,
    { replacements: { id: sessionId }, type: QueryTypes.SELECT },
  );
  return row ?? { revision: -1, rest: 'gone', progress: {} };
}
