import { QueryTypes } from 'sequelize';
import { db } from '../db';

const POLL_MS = 500;
const KEEP_ALIVE_MS = 15_000;

/** A stream of `data: <stamp>` events: a new stamp whenever a session, its jobs, recordings or packages changed. */
export function sessionEvents(sessionId: string, signal: AbortSignal): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let timer: ReturnType<typeof setTimeout> | undefined;
  return new ReadableStream({
    start(controller) {
      let last = '';
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
          if (stamp !== last) controller.enqueue(encoder.encode(`data: ${stamp}\n\n`));
          else if (quietMs >= KEEP_ALIVE_MS) {
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

async function readStamp(sessionId: string): Promise<string> {
  const [row] = await db().query<{ stamp: string | null }>(
    `select concat_ws('.', (select revision from sessions where id = :id),
       (select md5(string_agg(id::text || state || progress::text, ',' order by id)) from jobs where session_id = :id and (state in ('queued','running') or finished_at > now() - interval '1 minute')),
       (select md5(string_agg(id::text || state || (onsets_sha256 is not null)::text || (converted_sha256 is not null)::text, ',' order by id)) from recordings where session_id = :id),
       (select md5(string_agg(id::text || state, ',' order by id)) from handovers where session_id = :id)) stamp`,
    { replacements: { id: sessionId }, type: QueryTypes.SELECT },
  );
  return row?.stamp ?? 'gone';
}
