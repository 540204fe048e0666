import { QueryTypes } from 'sequelize';
import type { SessionNews } from '@/contracts';
import { db, watchSession } from '../db';
import { batchesAfter } from './batches';
import { stepLabels } from './editing';

/** Of many changes at once one message is made. */
const TOGETHER_MS = 60;
/** A sign of life, and a look in case something was not heard. */
const KEEP_ALIVE_MS = 15_000;
/** Before a look that failed is tried again: the database may be restarting. */
const RETRY_MS = 500;

/**
 * A stream of {@link SessionNews}, a message whenever a session, its jobs, recordings or packages changed; what was done
 * in between travels with it. The first message comes at once, with what was done after revision `after`, if that is known.
 */
export function sessionEvents(
  sessionId: string,
  after: number | null,
  signal: AbortSignal,
): ReadableStream<Uint8Array> {
  let stop = (): void => undefined;
  return new ReadableStream({
    start(controller) {
      stop = tellNews(sessionId, after, controller);
      signal.addEventListener('abort', stop);
    },
    cancel: () => stop(),
  });
}

/** Tells a reader what is new until it is stopped. */
function tellNews(
  sessionId: string,
  after: number | null,
  controller: ReadableStreamDefaultController<Uint8Array>,
): () => void {
  const encoder = new TextEncoder();
  let last: SessionStamp | null = after === null ? null : { revision: after, rest: '', progress: {} };
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isLooking = false;
  let isOver = false;
  /** Looks again in so long, or sooner if that was meant. */
  let due = Infinity;
  const lookIn = (ms: number): void => {
    const at = Date.now() + ms;
    if (isOver || at >= due) return;
    due = at;
    clearTimeout(timer);
    timer = setTimeout(() => void look(), ms);
  };
  const look = async (): Promise<void> => {
    due = Infinity;
    // What changes during a look is looked at after it.
    if (isLooking) return lookIn(TOGETHER_MS);
    isLooking = true;
    try {
      const stamp = await readStamp(sessionId);
      const isNews = JSON.stringify(stamp) !== JSON.stringify(last);
      const news = isNews ? await newsOf(sessionId, stamp, last) : null;
      if (isOver) return;
      const text = news
        ? `id: ${stamp.revision}\ndata: ${JSON.stringify(news)}\n\n`
        : 'event: alive\ndata: 1\n\n';
      last = stamp;
      send(text);
      lookIn(KEEP_ALIVE_MS);
    } catch {
      lookIn(RETRY_MS);
    } finally {
      isLooking = false;
    }
  };
  const send = (text: string): void => {
    try {
      controller.enqueue(encoder.encode(text));
    } catch {
      // Its reader went without a word.
      stop();
    }
  };
  const unwatch = watchSession(sessionId, () => lookIn(TOGETHER_MS));
  const stop = (): void => {
    if (isOver) return;
    isOver = true;
    clearTimeout(timer);
    unwatch();
    try {
      controller.close();
    } catch {
      // already closed by the reader
    }
  };
  void look();
  return stop;
}

async function newsOf(id: string, stamp: SessionStamp, last: SessionStamp | null): Promise<SessionNews> {
  if (!last || stamp.revision === last.revision) return stamp;
  const since = await batchesAfter(id, last.revision);
  const isPlain = since === null || since.every((b) => b.action === 'do');
  // Read a moment later, it may hold a step more than the stamp says: it comes again, and is passed by.
  return { ...stamp, since, ...(isPlain ? {} : await stepLabels(id)) };
}

/** How far a session is: its revision, a text that is another whenever anything else a page shows of it is, and how far its running jobs are. */
export type SessionStamp = Required<Pick<SessionNews, 'revision' | 'rest' | 'progress'>>;

/** The stamp of a session; one that is gone has revision −1. */
export async function readStamp(sessionId: string): Promise<SessionStamp> {
  const [row] = await db().query<SessionStamp>(
    `select revision, md5(concat_ws('.',
       (select md5(string_agg(id::text || state, ',' order by id)) from jobs where session_id = :id and state in ('queued','running','failed')),
       (select max(finished_at) from jobs where session_id = :id),
       (select count(*) from jobs o where o.session_id is distinct from :id and o.state in ('queued','running')
         and exists (select 1 from jobs w where w.session_id = :id and w.state = 'queued')),
       (select md5(string_agg(id::text || state || (onsets_sha256 is not null)::text || (levels_sha256 is not null)::text || (converted_sha256 is not null)::text, ',' order by id)) from recordings where session_id = :id),
       (select md5(string_agg(id::text || state, ',' order by id)) from handovers where session_id = :id))) rest,
       (select coalesce(json_object_agg(id, progress order by id), '{}') from jobs where session_id = :id and state = 'running') progress
     from sessions where id = :id`,
    { replacements: { id: sessionId }, type: QueryTypes.SELECT },
  );
  return row ?? { revision: -1, rest: 'gone', progress: {} };
}
