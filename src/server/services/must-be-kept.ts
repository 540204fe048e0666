import { Op, type Transaction } from 'sequelize';
import { db, SessionModel } from '../db';
import { RequestFault } from '../http';

/** Whether a session lies in the waste basket. */
export const isInWaste = async (sessionId: string): Promise<boolean> => {
  db();
  return (await SessionModel.count({ where: { id: sessionId, deletedAt: { [Op.not]: null } } })) > 0;
};

/** Who edits a session must find it on the list: what is in the waste basket is kept as it is. Throws `session.in_waste`. */
export async function mustBeKept(sessionId: string, transaction: Transaction): Promise<void> {
  const head = await SessionModel.findByPk(sessionId, { attributes: ['deletedAt'], transaction });
  if (head && head.deletedAt !== null) throw new RequestFault({ code: 'session.in_waste' });
}
