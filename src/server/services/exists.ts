import { db, isUuid, SessionModel } from '../db';
import { RequestFault } from '../http';

/** Throws `session.not_found` when there is no such session. */
export async function mustExist(sessionId: string): Promise<void> {
  db();
  if (!isUuid(sessionId) || !(await SessionModel.findByPk(sessionId, { attributes: ['id'] })))
    throw new RequestFault({ code: 'session.not_found' });
}
