import { isTrack } from '@/core/session';
import { db, isUuid, loadSession } from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';
import { enqueueListening } from './recordings';

/** Starts a detection over a session's timekeepers; null lets it choose. Returns the job's id. */
export async function startDetection(sessionId: string, timekeepers: readonly string[] | null): Promise<string> {
  // A listening pass that was cancelled or failed is asked for again; the detection waits for it.
  const unheard = isUuid(sessionId) ? await db().transaction((transaction) => enqueueListening(sessionId, transaction)) : 0;
  if (unheard > 0) throw new RequestFault({ code: 'tempo.not_analysed', missing: unheard });
  return db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction);
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    if (!Object.values(loaded.session.nodes).some(isTrack)) throw new RequestFault({ code: 'delivery.no_tracks' });
    if (timekeepers?.length === 0) throw new RequestFault({ code: 'tempo.no_timekeepers' });
    return enqueue({ kind: 'tempo.detect', sessionId, subject: loaded.session.name, payload: { sessionId, timekeepers } }, transaction);
  });
}
