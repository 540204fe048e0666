import { Op } from 'sequelize';
import { soundTracks } from '@/core/session';
import { namesTellTakes } from '@/core/takes';
import { db, isUuid, JobModel, loadSession, RecordingModel } from '../db';
import { RequestFault } from '../http';
import { enqueue } from '../jobs';
import { countUnheard, enqueueListening } from './recordings';

/** Works out levels and pans for a session; the job's id. */
export const startBalance = (sessionId: string): Promise<string> =>
  startOverTracks('balance.find', sessionId);

/** Looks for the sections of a session's song, once all of it was listened to; the job's id. */
export const startSections = (sessionId: string): Promise<string> =>
  startOverHeard('sections.find', sessionId);

/** Looks for takes among the tracks of a session, once all of it was listened to; the job's id. */
export const startTakes = (sessionId: string): Promise<string> => startOverHeard('takes.find', sessionId);

/**
 * Looks for takes unasked: once all that was sent has arrived and was heard, if names say of tracks that they are takes
 * of one part, and nobody has looked since the last of them came. Returns whether it did.
 */
export const findTakesByItself = (sessionId: string): Promise<boolean> =>
  db().transaction(async (transaction) => {
    const loaded = await loadSession(sessionId, transaction, true);
    if (!loaded) return false;
    const single = soundTracks(loaded.session).filter((t) => t.otherLanes.length === 0);
    if (!namesTellTakes(single.map((t) => t.receivedName))) return false;
    if ((await countUnheard(sessionId, transaction)) > 0) return false;
    const last = await RecordingModel.max<Date, RecordingModel>('createdAt', {
      where: { sessionId },
      transaction,
    });
    const looked = await JobModel.count({
      where: { sessionId, kind: 'takes.find', createdAt: { [Op.gte]: last } },
      transaction,
    });
    if (looked > 0) return false;
    await enqueue(
      { kind: 'takes.find', sessionId, subject: loaded.session.name, payload: { sessionId } },
      transaction,
    );
    return true;
  });

async function startOverHeard(kind: 'sections.find' | 'takes.find', sessionId: string): Promise<string> {
  const unheard = isUuid(sessionId)
    ? await db().transaction((transaction) => enqueueListening(sessionId, transaction))
    : 0;
  if (unheard > 0) throw new RequestFault({ code: 'tempo.not_analysed', missing: unheard });
  return startOverTracks(kind, sessionId);
}

/** Starts a job over all tracks of a session, once all that came has arrived; its id. Throws RequestFault where there is nothing to work on. */
export const startOverTracks = (
  kind: 'balance.find' | 'sections.find' | 'takes.find' | 'loudness.measure',
  sessionId: string,
): Promise<string> =>
  db().transaction(async (transaction) => {
    const loaded = isUuid(sessionId) ? await loadSession(sessionId, transaction) : null;
    if (!loaded) throw new RequestFault({ code: 'session.not_found' });
    if (soundTracks(loaded.session).length === 0) throw new RequestFault({ code: 'delivery.no_tracks' });
    const arriving = await RecordingModel.count({
      where: { sessionId, state: { [Op.in]: ['waiting', 'arriving'] } },
      transaction,
    });
    if (arriving > 0) throw new RequestFault({ code: 'delivery.not_ready' });
    return enqueue({ kind, sessionId, subject: loaded.session.name, payload: { sessionId } }, transaction);
  });
